import{a}from"./shared-XKRC3XNH.js";export{a as player};
