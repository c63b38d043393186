import{y as r}from"./shared-TBQXWMOR.js";r();
