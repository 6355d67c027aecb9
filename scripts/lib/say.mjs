/** Ends the program with one sentence that says what to do. */
export function fail(sentence) {
  console.error(`foothill: ${sentence}`);
  process.exit(1);
}

export function say(text) {
  console.log(`foothill: ${text}`);
}

/** Waits `ms` milliseconds. */
export const sleep = (ms) => new Promise((done) => setTimeout(done, ms));
