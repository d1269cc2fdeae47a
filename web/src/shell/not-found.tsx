import { Link } from "react-router";

export const NotFound = () => (
  <div className="m-8">
    <h1 className="text-2xl font-bold">There is no such sheet</h1>
    <p className="mt-2">
      Back to the{" "}
      <Link className="text-green underline" to="/">
        bench
      </Link>
      .
    </p>
  </div>
);
