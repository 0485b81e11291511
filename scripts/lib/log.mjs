/** What the scripts say, plainly, on standard error; standard output is kept for the one line that matters. */
export const say = (text) => process.stderr.write(`${text}\n`);

/** An expected end: the message is for a person, no stack. */
export class Stop extends Error {}

export function runMain(main) {
  main().catch((error) => {
    say(error instanceof Stop ? error.message : (error.stack ?? String(error)));
    process.exit(1);
  });
}
