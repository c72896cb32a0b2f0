import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { saveBrandSheet, sheetQueries } from "@/data/brandsheet";
import { useForm } from "@/ui/useForm";

export type Sheet = Required<Schemas["SheetIO"]>;

/** The brand sheet as it is saved. */
export function useSheet() {
  const { brand } = useBrandContext();
  return useQuery(sheetQueries.sheet(brand.slug));
}

/** The sheet as it is typed, from what was loaded; `save` is true when it went through. */
export function useSheetForm(loaded: Schemas["SheetOut"]) {
  const { brand } = useBrandContext();
  const queries = useQueryClient();
  const form = useForm();
  const [sheet, setSheet] = useState(loaded.sheet as Sheet);
  const [dirty, setDirty] = useState(false);
  const change = (more: Partial<Sheet>) => {
    setSheet((s) => ({ ...s, ...more }));
    setDirty(true);
  };
  const save = () =>
    form.send(async () => {
      const saved = await saveBrandSheet(brand.slug, loaded.revision, sheet);
      queries.setQueryData(sheetQueries.sheet(brand.slug).queryKey, saved);
    });
  return { sheet, change, dirty, save, form };
}
