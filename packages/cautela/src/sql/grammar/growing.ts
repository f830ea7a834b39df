/** Adds to a list of a node that is still being read: nobody else has seen it yet, and later nobody may. */
export function grow<Item>(list: readonly Item[], item: Item): void {
  (list as Item[]).push(item);
}
