import base from "./vitest.config.ts";

/** The tests that need no server and take seconds: a mutant that none of them notices has survived. */
const TESTS = ["hazards", "review", "filters", "quiet-scripts", "names", "ripples", "refused", "rehearsal-reasons"];

export default {
  ...base,
  test: { ...base.test, include: TESTS.map((name) => `packages/cautela/test/${name}.test.ts`) },
};
