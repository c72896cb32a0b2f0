import { Box } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { ReadPage } from "@/features/brandsheet/ReadPage";
import { useSheet, useSheetForm } from "@/features/brandsheet/useSheet";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { toast } from "@/ui/toasts";

/** A first version of the brand sheet, read from the brand's site and saved. */
export function ReadStep() {
  const found = useSheet();
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return <Reading key={found.data.revision} loaded={found.data} />;
}

function Reading({ loaded }: { loaded: Schemas["SheetOut"] }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const { sheet, change, dirty, save, form } = useSheetForm(loaded);
  async function send() {
    if (!(await save())) return;
    await changed("first-steps");
    toast("The brand sheet is saved.");
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
        <Button kind="main" onClick={() => void send()} disabled={form.busy}>
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
