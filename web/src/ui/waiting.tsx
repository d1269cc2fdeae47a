import { problemText } from "../store/api.ts";

/** What stands where something is still coming, or did not come. */
export const Waiting = ({ error }: { error?: unknown }) =>
  error ? (
    <p role="alert" className="m-6 border-l-4 border-rust bg-rust-soft p-4">
      {problemText(error)}
    </p>
  ) : (
    <p role="status" className="m-6 text-muted">
      One moment …
    </p>
  );
