/** A failure told to a person in a plain sentence; anything else is a defect and shows its stack. */
export class Plain extends Error {}

/** Runs a command's main function: a Plain failure prints its sentence, and the exit code is 1. */
export async function runMain(main) {
  try {
    await main();
  } catch (error) {
    console.error(error instanceof Plain ? `\n${error.message}` : error);
    process.exit(1);
  }
}

export const say = (words) => console.log(words);
