import { Box } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, got, ifMatch, type Schemas } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import type { Sheet } from "@/features/brandsheet/BrandSheetPage";
import { ReadPage } from "@/features/brandsheet/ReadPage";
import { Button } from "@/ui/Button";
import { Failed } from "@/ui/Failed";
import { Loading } from "@/ui/Loading";
import { say } from "@/ui/notices";
import { useForm } from "@/ui/useForm";

/** A first version of the brand sheet, read from the brand's site and saved. */
export function ReadStep() {
  const { brand } = useHere();
  const path = { brand: brand.slug };
  const found = useQuery({
    queryKey: ["sheet", brand.slug],
    queryFn: () => got(api.GET("/api/brands/{brand}/sheet", { params: { path } })),
  });
  if (found.error && !found.data) return <Failed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return <Reading key={found.data.revision} loaded={found.data} />;
}

function Reading({ loaded }: { loaded: Schemas["SheetOut"] }) {
  const { brand } = useHere();
  const queries = useQueryClient();
  const form = useForm();
  const [sheet, setSheet] = useState(loaded.sheet as Sheet);
  const [dirty, setDirty] = useState(false);
  const change = (more: Partial<Sheet>) => {
    setSheet((s) => ({ ...s, ...more }));
    setDirty(true);
  };
  async function save() {
    const path = { brand: brand.slug };
    const fine = await form.send(async () => {
      const kept = await got(
        api.PUT("/api/brands/{brand}/sheet", { params: { path }, headers: ifMatch(loaded.revision), body: sheet }),
      );
      queries.setQueryData(["sheet", brand.slug], kept);
    });
    if (!fine) return;
    await queries.invalidateQueries({ queryKey: ["first-steps", brand.slug] });
    say("The brand sheet is saved.");
  }
  return (
    <>
      <ReadPage sheet={sheet} change={change} />
      {loaded.filled > 0 && !dirty && (
        <Box role="status">
          {loaded.filled} of {loaded.parts} parts say something.
        </Box>
      )}
      {dirty && (
        <Button kind="main" onClick={() => void save()} disabled={form.busy}>
          Save the brand sheet
        </Button>
      )}
      {form.problem && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.problem.message}
        </Box>
      )}
    </>
  );
}
