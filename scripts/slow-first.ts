import { BaseSequencer, type TestSpecification } from "vitest/node";

/** What takes a minute or two, though its file is short; what keeps the servers busy beside what does not. */
const SLOW = [
  "walk.test",
  "spelling.test",
  "reading.test",
  "command.test",
  "walk-generated.test",
  "accepted-by-engines.test",
];

/** Slow files begin, so that no worker is left alone with one of them at the end. */
export class SlowFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification): number => {
      const at = SLOW.findIndex((name) => moduleId.endsWith(`/${name}.ts`));
      return at < 0 ? SLOW.length : at;
    };
    return (await super.sort(files)).sort((a, b) => rank(a) - rank(b));
  }
}
