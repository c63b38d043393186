import{z as r}from"./shared-IKBVMRFB.js";r();
