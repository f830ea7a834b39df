/** Ctrl-C, by the convention of shells. */
const INTERRUPTED = 130;

const leave = (): void => process.exit(INTERRUPTED);

/** Ends the command at once at Ctrl-C, with 130. Outputs are renamed into place, so that none is left half-written. */
export function hearInterrupt(): void {
  process.on("SIGINT", leave);
}

/** Does work that keeps this thread busy: Ctrl-C ends it as it ends any program, since no handler would be called. */
export async function interruptible<T>(work: () => Promise<T>): Promise<T> {
  process.off("SIGINT", leave);
  try {
    return await work();
  } finally {
    process.on("SIGINT", leave);
  }
}
