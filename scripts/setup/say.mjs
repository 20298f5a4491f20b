/** What the scripts print, and how they give up: one sentence that helps, no stack. */
export const say = (text) => process.stdout.write(`${text}\n`);

export class SetupError extends Error {}

export async function runMain(main) {
  try {
    await main();
  } catch (error) {
    if (!(error instanceof SetupError)) throw error;
    process.stderr.write(`\n${error.message}\n`);
    process.exitCode = 1;
  }
}
