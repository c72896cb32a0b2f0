import { Box } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { useQuestions } from "@/features/relays/queries";
import { Part } from "./Part";

const SHOWN = 4;

/** What relays ask, the oldest first. */
export function RelayQuestions() {
  const { brand } = useBrandContext();
  const asked = useQuestions(brand.slug).data ?? [];
  if (!asked.length) return null;
  return (
    <Part title="Relays ask" count={asked.length}>
      {asked.slice(0, SHOWN).map(({ firing: leg }) => (
        <Box key={leg.id} py="7px" borderTopWidth="1px" borderColor="rule">
          <Link
            to="/$brand/relays/asked"
            params={{ brand: brand.slug }}
            search={{ leg: leg.id }}
            style={{ textDecoration: "underline" }}
          >
            {leg.title}
          </Link>
        </Box>
      ))}
      {asked.length > SHOWN && (
        <Box py="7px" color="faded">
          and {asked.length - SHOWN} more
        </Box>
      )}
    </Part>
  );
}
