import { isRouteErrorResponse, useRouteError } from "react-router";
import { Button } from "../ui/button.tsx";

// What browsers say where a piece of the application could not be fetched: there is no name of its own for it.
const NOT_FETCHED = /dynamically imported module|module script failed|error loading|preload/iu;

const wordsFor = (error: unknown): { title: string; words: string } => {
  const message = isRouteErrorResponse(error)
    ? error.statusText
    : error instanceof Error
      ? error.message
      : String(error);
  return NOT_FETCHED.test(message)
    ? {
        title: "This screen is not on the device yet",
        words:
          "It could not be fetched: there is no signal, or a new version has taken its place. What was entered is kept.",
      }
    : {
        title: "This screen could not be shown",
        words: `What was entered is kept. What went wrong: ${message}`,
      };
};

/** What stands in place of a screen that could not be fetched or shown. */
export const NotShown = () => {
  const { title, words } = wordsFor(useRouteError());
  return (
    <main className="m-8" role="alert">
      <h1 className="text-2xl font-bold">{title}</h1>
      <p className="my-4">{words}</p>
      <Button look="act" big onClick={() => window.location.reload()}>
        Try again
      </Button>{" "}
      <a className="ml-4 text-green underline" href="/">
        To the bench
      </a>
    </main>
  );
};
