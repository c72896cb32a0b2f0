import { createContext, useContext } from "react";
import type { Brand, Me } from "@/api/client";

type BrandValue = { brand: Brand; me: Me; may: (capability: string) => boolean };
export const BrandContext = createContext<BrandValue | null>(null);

/** The brand one is in, who one is, and what one may do here. */
export function useBrandContext(): BrandValue {
  const value = useContext(BrandContext);
  if (!value) throw new Error("useBrandContext is for pages of a brand");
  return value;
}
