/** One line for the person at the terminal. */
export function say(line) {
  process.stdout.write(`${line}\n`);
}

/** Ends the command with one sentence that says what to do. */
export function giveUp(sentence) {
  process.stderr.write(`\n${sentence}\n`);
  process.exit(1);
}
