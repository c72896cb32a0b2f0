import { Link } from "@tanstack/react-router";
import { EmptyState } from "./EmptyState";

export function NotFound() {
  return (
    <main>
      <EmptyState page title="Nothing here" words="There is no such page, or it isn't yours to see.">
        <Link to="/" search={{}} style={{ textDecoration: "underline" }}>
          To the calendar
        </Link>
      </EmptyState>
    </main>
  );
}
