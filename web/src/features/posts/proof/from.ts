import { createContext, useContext } from "react";
import { BrandContext } from "@/app/brandContext";

/** Where a proof's pictures come from, and the ink of the brand it is of. */
type From = { media: string; ink: string };
export const ProofFrom = createContext<From | null>(null);

/** A page of a brand has its own; a client's page says it. */
export function useProofFrom(): From {
  const values = useContext(ProofFrom);
  const here = useContext(BrandContext);
  if (values) return values;
  if (!here) throw new Error("a proof needs to know where its pictures are");
  return { media: `/media/${here.brand.slug}`, ink: here.brand.ink };
}
