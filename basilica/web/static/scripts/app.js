import{z as r}from"./shared-4Y3TLEIP.js";r();
