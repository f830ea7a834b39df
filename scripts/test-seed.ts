import fc from "fast-check";

// The same draws on every machine, so that what a change breaks is what the change broke. SEED=random looks elsewhere.
const { SEED = "20261128" } = process.env;
if (SEED !== "random") fc.configureGlobal({ seed: Number(SEED) });
