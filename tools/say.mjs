/** One line to the person at the terminal. */
export const say = (line) => console.log(line);

/** Ends the program with a message instead of a stack. */
export function stop(message) {
  console.error(message);
  process.exit(1);
}
