import { Link } from "@tanstack/react-router";
import { Empty } from "./Empty";

export function NotHere() {
  return (
    <main>
      <Empty title="Nothing here" words="There is no such page, or it isn't yours to see.">
        <Link to="/" search={{}} style={{ textDecoration: "underline" }}>
          To the calendar
        </Link>
      </Empty>
    </main>
  );
}
