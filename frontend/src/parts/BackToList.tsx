import { Link } from "react-router";

/** The way back to the front page. */
export function BackToList() {
  return (
    <Link to="/" className="mt-4 inline-flex min-h-11 items-center text-act underline">
      Back to the work list
    </Link>
  );
}
