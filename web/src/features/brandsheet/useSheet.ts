import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ifMatch, type Schemas, unwrap } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useForm } from "@/ui/useForm";

export type Sheet = Required<Schemas["SheetIO"]>;

/** The brand sheet as it is saved. */
export function useSheet() {
  const { brand } = useBrandContext();
  return useQuery({
    queryKey: ["sheet", brand.slug],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sheet", { params: { path: { brand: brand.slug } } })),
  });
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
      const path = { brand: brand.slug };
      const saved = await unwrap(
        api.PUT("/api/brands/{brand}/sheet", { params: { path }, headers: ifMatch(loaded.revision), body: sheet }),
      );
      queries.setQueryData(["sheet", brand.slug], saved);
    });
  return { sheet, change, dirty, save, form };
}
