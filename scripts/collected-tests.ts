// What `mutate-sample.mjs` gives the test files instead of the test runner: it keeps the tests as plain functions.
import { readFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { format } from "node:util";
import { JestAsymmetricMatchers, JestChaiExpect, JestExtend } from "@vitest/expect";
import * as chai from "chai";

/** A test that a file stated, with the file and the names of the groups that it is in. */
export interface CollectedTest {
  name: string;
  run(): unknown;
}

type Body = (...values: unknown[]) => unknown;

export const collected: CollectedTest[] = [];
/** The file whose tests are being stated, and the groups around the place. */
let groups: string[] = [];

chai.use(JestExtend);
chai.use(JestChaiExpect);
chai.use(JestAsymmetricMatchers);
chai.use(({ Assertion }, { flag }) => {
  Assertion.addMethod("toMatchFileSnapshot", function (this: object, path: string) {
    const file = path.startsWith("/") ? path : join(folder, path);
    new Assertion(flag(this, "object")).to.equal(readFileSync(file, "utf8"));
  });
  // What stands within the test is compared by the runner, which knows how it prints a value.
  Assertion.addMethod("toMatchInlineSnapshot", () => {});
});
let folder = "";

export const expect: unknown = Object.assign((value: unknown, message?: string) => chai.expect(value, message), {
  ...chai.expect,
});

/** The tests of one file are stated after this. */
export function beginFile(path: string): void {
  folder = dirname(path);
  groups = [path];
}

export const test = stated((name, body) => {
  const at = folder;
  collected.push({
    name: [...groups, name].join(" > "),
    run() {
      folder = at;
      return body();
    },
  });
});

export const describe = stated((name, body) => {
  groups.push(name);
  body();
  groups.pop();
});

/** `test` and `describe` as they are called: plain, with options, under a condition, and for each value of a table. */
function stated(state: (name: string, body: () => unknown) => void) {
  const one = (name: string, ...rest: unknown[]) =>
    state(name, rest.find((part) => typeof part === "function") as Body);
  const each =
    (rows: readonly unknown[]) =>
    (name: string, ...rest: unknown[]) => {
      const body = rest.find((part) => typeof part === "function") as Body;
      for (const row of rows) {
        const values: unknown[] = Array.isArray(row) ? row : [row];
        state(format(name, ...values), () => body(...values));
      }
    };
  const nothing = Object.assign(() => {}, { each: () => () => {} });
  const both = Object.assign(one, { each });
  return Object.assign(both, {
    runIf: (when: unknown) => (when ? both : nothing),
    skipIf: (when: unknown) => (when ? nothing : both),
    skip: nothing,
  });
}

export function beforeAll(): void {}
export function afterAll(): void {}
