import { Box, chakra, Flex } from "@chakra-ui/react";
import type { FormEvent } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { toast } from "@/ui/toasts";
import { BrandBasics } from "./BrandBasics";
import { ReadPage } from "./ReadPage";
import { SheetFields } from "./SheetFields";
import { useSheet, useSheetForm } from "./useSheet";

/** What the brand is and how it speaks. All of it can be left for later. */
export function BrandSheetPage() {
  const { brand, may } = useBrandContext();
  const found = useSheet();
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const { filled, parts } = found.data;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="1120px">
      <Box as="h1" fontSize="28px" lineHeight="32px">
        Brand sheet of {brand.name}
      </Box>
      <Box color="faded" mb="16px">
        {filled === 0
          ? "Nothing is written yet, and nothing has to be: Menudo's proposals get better with each part."
          : `${filled} of ${parts} parts say something. The rest can wait.`}
      </Box>
      <BrandBasics />
      <Body key={found.data.revision} loaded={found.data} writes={may("edit_others")} />
    </Box>
  );
}

function Body({ loaded, writes }: { loaded: Schemas["SheetOut"]; writes: boolean }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const { sheet, change, dirty, save, form } = useSheetForm(loaded);
  async function send(event: FormEvent) {
    event.preventDefault();
    if (await save()) toast("The brand sheet is kept.");
  }
  const stale = form.problem instanceof Problem && form.problem.status === 412;
  return (
    <>
      {writes && <ReadPage sheet={sheet} change={change} />}
      <chakra.form onSubmit={send}>
        <SheetFields sheet={sheet} change={change} at={form.at} writes={writes} />
        {writes && (
          <Flex
            position="sticky"
            bottom="0"
            bg="wash"
            borderTopWidth="2px"
            borderColor="ink"
            mx={{ base: "-12px", md: "-24px" }}
            px={{ base: "12px", md: "24px" }}
            py="10px"
            gap="14px"
            align="center"
          >
            <Box flex="1" color="faded">
              {dirty ? "Not kept yet." : "As it is kept."}
            </Box>
            {form.problem && !stale && (
              <Box role="alert" color="pimenton">
                {form.problem.faults.length ? "Look at the fields marked in red." : form.problem.message}
              </Box>
            )}
            <Button kind="main" type="submit" disabled={form.busy || !dirty}>
              Keep the sheet
            </Button>
          </Flex>
        )}
      </chakra.form>
      {stale && (
        <Bar tone="maize" role="alert">
          <Box flex="1">Someone changed the sheet since you opened it. What you typed is still here.</Box>
          <Button onClick={() => void changed("brand")}>See theirs</Button>
        </Bar>
      )}
    </>
  );
}
