/** Why a command could not do its work. Shown as one line on standard error; exit status 2. */
export class Failure extends Error {
  override readonly name = "Failure";
}
