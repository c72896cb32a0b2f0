import { Box } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { useRotas } from "@/features/rotas/queries";
import { Part } from "./Part";

/** Rotas that are on and run dry, and when. */
export function ExhaustedRotas() {
  const { brand } = useBrandContext();
  const dry = (useRotas(brand.slug).data ?? [])
    .filter((one) => one.active)
    .flatMap((one) => one.exhaustion.map((d) => [one, d] as const));
  if (!dry.length) return null;
  return (
    <Part title="Rotas that run dry" count={dry.length}>
      {dry.map(([one, d]) => (
        <Box key={`${one.id}-${d.profile}`} py="7px" borderTopWidth="1px" borderColor="rule">
          <Link
            to="/$brand/rotas/$rota"
            params={{ brand: brand.slug, rota: String(one.id) }}
            style={{ textDecoration: "underline" }}
          >
            {one.name}
          </Link>
          <Box color="faded" fontSize="12px">
            {d.summary}
          </Box>
        </Box>
      ))}
    </Part>
  );
}
