/** Words to the person at the terminal. */
export const say = (line) => console.log(line);

/** Something that the person must do; ends the command with status 1. */
export class Stuck extends Error {}

export const orElseSay = async (work) => {
  try {
    await work();
  } catch (error) {
    console.error(error instanceof Stuck ? `\n${error.message}` : error);
    process.exit(1);
  }
};
