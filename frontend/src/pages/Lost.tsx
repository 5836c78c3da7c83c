import { Link } from "react-router";

/** A place that does not exist. */
export function Lost() {
  return (
    <div className="sheet mx-auto mt-16 max-w-md p-6">
      <h1 className="text-heading">Nothing here</h1>
      <p className="mt-2">
        This address leads nowhere. <Link className="font-bold underline" to="/">Back to the Yard</Link>
      </p>
    </div>
  );
}
