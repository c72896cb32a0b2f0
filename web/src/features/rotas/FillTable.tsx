import { Box } from "@chakra-ui/react";
import { useBrandContext } from "@/app/brandContext";
import { addTable } from "@/data/rotas";
import { FileButton } from "@/ui/FileButton";
import { useForm } from "@/ui/useForm";
import { useRotaAction } from "./queries";

/** Turns from a CSV file: a row each, all of them or none. */
export function FillTable({ rota, close }: { rota: number; close: () => void }) {
  const { brand } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const form = useForm();
  async function bring(file: File | undefined) {
    if (!file) return;
    let turns = 0;
    const fine = await form.send(async () => {
      const done = await addTable(brand.slug, rota, { file });
      turns = done.turns;
    });
    if (!fine) return;
    await act(async () => undefined, `${turns} ${turns === 1 ? "turn" : "turns"} put in.`);
    close();
  }
  return (
    <>
      <Box mb="12px">
        A CSV file with a row for each turn. Its first row names the columns: <b>text</b> (several text columns are
        several wordings), <b>picture</b> (a name in the library), <b>link</b>, <b>times</b>, <b>until</b> (like
        2027-03-31).
      </Box>
      <FileButton accept=".csv,text/csv,text/plain" pick={(files) => void bring(files[0])} disabled={form.busy}>
        Choose a table
      </FileButton>
      {form.problem && (
        <Box role="alert" color="pimenton" mt="12px">
          <b>Nothing was put in.</b>
          {(form.problem.faults.length ? form.problem.faults.map((f) => f.detail) : [form.problem.message]).map(
            (words) => (
              <Box key={words}>{words}</Box>
            ),
          )}
        </Box>
      )}
    </>
  );
}
