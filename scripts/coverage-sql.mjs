// How much of the project's own SQL is read, by dialect: the corpora of the tests and the demo. A
// statement is read when it has a tree, partly opaque when some of its text is kept without one,
// known by its head when only its class is known, and unread otherwise.
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dialectIds, readScript } from "cautela";
import { walk } from "cautela/tools";

const files = (dialect) => [
  ...["packages/cautela/test/corpus", "demo/schema", "demo/data"].map((folder) => `${folder}/${dialect}.sql`),
  ...(existsSync(`demo/scripts/${dialect}`)
    ? readdirSync(`demo/scripts/${dialect}`).map((file) => `demo/scripts/${dialect}/${file}`)
    : []),
];

/** Whether part of a statement was kept as text. */
function partlyOpaque(tree) {
  let opaque = false;
  walk(tree, (node) => {
    if (node.kind === "opaque" && node !== tree && node.verb === undefined) opaque = true;
    if (node.kind === "opaque-source" || (node.kind === "call" && node.opaque)) opaque = true;
    return undefined;
  });
  return opaque || (tree.kind === "create-routine" && tree.problem !== null);
}

console.log("| dialect | statements | read | partly opaque | known by its head | unread |\n|---|--:|--:|--:|--:|--:|");
let unreadTotal = 0;
for (const dialect of dialectIds) {
  const count = { all: 0, read: 0, partly: 0, head: 0, unread: 0 };
  for (const file of files(dialect).filter(existsSync)) {
    for (const { tree } of readScript(readFileSync(file, "utf8"), { dialect }).statements) {
      if (tree.kind === "directive") continue;
      count.all++;
      if (tree.kind === "unread") count.unread++;
      else if (tree.kind === "opaque") count.head++;
      else if (partlyOpaque(tree)) count.partly++;
      else count.read++;
    }
  }
  unreadTotal += count.unread;
  const share = (n) => `${n} (${((100 * n) / count.all).toFixed(1)} %)`;
  console.log(
    `| ${dialect} | ${count.all} | ${share(count.read)} | ${share(count.partly)} | ${share(count.head)} | ${share(count.unread)} |`,
  );
}
console.log(`\n${unreadTotal} unread in all; the demo holds one on purpose.`);
