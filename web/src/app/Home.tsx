import { Link, Navigate, useParams, useSearch } from "@tanstack/react-router";
import { useMe } from "@/features/people/queries";
import { SignedIn } from "@/features/people/SignedIn";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";

const LAST = "menudo-last-brand";

export function rememberBrand(slug: string): void {
  localStorage.setItem(LAST, slug);
}

/** The bare address: the brand one was in last, else the first. */
export function Home() {
  const { connect } = useSearch({ from: "/" });
  return (
    <SignedIn said={connect ? "Sign in, then connect again." : undefined}>
      <ToBrand />
    </SignedIn>
  );
}

function ToBrand() {
  const me = useMe();
  const { outcome } = useSearch({ from: "/" });
  const brands = me.data?.brands ?? [];
  const brand = brands.find((b) => b.slug === localStorage.getItem(LAST)) ?? brands[0];
  if (!brand)
    return (
      <EmptyState
        title="No brand yet"
        words="You belong to no brand yet. Make one, or ask a brand's coordinator to invite you."
      >
        <Button kind="main" asChild>
          <Link to="/new-brand">Make a brand</Link>
        </Button>
      </EmptyState>
    );
  // A way back from a network that leads to no brand is told where profiles are connected.
  if (outcome) return <Navigate to="/$brand/profiles" params={{ brand: brand.slug }} search={{ outcome }} replace />;
  return <Navigate to="/$brand/calendar" params={{ brand: brand.slug }} search={{}} replace />;
}

export function ToCalendar() {
  const { brand } = useParams({ from: "/$brand" });
  return <Navigate to="/$brand/calendar" params={{ brand }} search={{}} replace />;
}
