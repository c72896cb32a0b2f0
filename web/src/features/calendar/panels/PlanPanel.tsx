import { Box, chakra, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { importPlan, inspectPlan } from "@/data/plans";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { Tick } from "@/ui/Tick";
import { formatInstant, formatWallTime } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { useUndo } from "../queries";

type Read = Schemas["PlanReadOut"];
type Row = Schemas["PlanRowOut"];
const HEADER =
  "date,time,zone,profiles,text,text NETWORK,field NAME,media,showing,link,card,link tags,labels,kind,title,first comment,campaign";

/** A month of posts from a spreadsheet: every row's findings before anything is made, all that are chosen or none. */
export function PlanPanel({ close }: { close: () => void }) {
  const { brand, me, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const undo = useUndo(brand.slug);
  const form = useForm();
  const [file, setFile] = useState<File | null>(null);
  const [read, setRead] = useState<Read | null>(null);
  const [lines, setLines] = useState<ReadonlySet<number>>(new Set());
  const [plans, setPlans] = useState(may("publish"));

  const choose = (chosen: File) =>
    form.send(async () => {
      setRead(null);
      setFile(chosen);
      const found = await inspectPlan(brand.slug, { file: chosen });
      const values = found as unknown as Read;
      setRead(values);
      setLines(new Set(values.rows.filter((r) => !r.faults.length && !r.known).map((r) => r.line)));
    });
  const bring = () =>
    form.send(async () => {
      if (!file) return;
      const again = read?.rows.some((r) => r.known && lines.has(r.line)) ?? false;
      const done = await importPlan(brand.slug, {
        file,
        lines: [...lines].join(","),
        plans: String(plans),
        again: String(again),
      });
      const entry = done.undo;
      toast(
        `${done.posts.length} ${done.posts.length === 1 ? "post" : "posts"} brought in, ${done.planned} deliveries planned.`,
        {
          undo: entry ? () => undo(entry) : undefined,
        },
      );
      await changed("delivery");
      close();
    });
  const toggle = (line: number) =>
    setLines((all) => {
      const next = new Set(all);
      if (!next.delete(line)) next.add(line);
      return next;
    });
  return (
    <>
      <Box color="faded" mb="8px">
        A CSV file whose first line names the columns. Only date and profiles are needed; profiles are handles or sets,
        with semicolons between them; a time may be “slot”.
      </Box>
      <chakra.code display="block" fontSize="12px" bg="wash" p="6px 8px" mb="10px" overflowX="auto" tabIndex={0}>
        {HEADER}
      </chakra.code>
      <FileButton accept=".csv,.tsv,.txt,text/csv" pick={(files) => files[0] && void choose(files[0])}>
        {read ? "Choose another file" : "Choose a file"}
      </FileButton>
      {form.problem && (
        <Box role="alert" color="pimenton" mt="10px">
          {form.problem.faults.length > 1
            ? form.problem.faults.slice(0, 12).map((f) => <Box key={f.pointer + f.detail}>{f.detail}</Box>)
            : form.problem.message}
        </Box>
      )}
      {read && (
        <>
          {read.known && (
            <Box mt="10px" p="8px 12px" bg="wash" borderLeft="3px solid" borderColor="maize">
              This very file was brought in before, on {formatInstant(read.known, brand.zone, me.clock24)}.
            </Box>
          )}
          <Flex mt="12px" gap="12px" align="center" flexWrap="wrap">
            <b>
              {read.rows.length} {read.rows.length === 1 ? "row" : "rows"}
            </b>
            <span>{read.rows.filter((r) => r.faults.length).length} with faults</span>
            <Button
              kind="link"
              onClick={() => setLines(new Set(read.rows.filter((r) => !r.faults.length).map((r) => r.line)))}
            >
              Choose all without faults
            </Button>
          </Flex>
          <Box borderTopWidth="1px" borderColor="rule" mt="6px">
            {read.rows.map((row) => (
              <PlanRow key={row.line} row={row} on={lines.has(row.line)} toggle={() => toggle(row.line)} />
            ))}
          </Box>
          {may("publish") && (
            <Tick checked={plans} onChange={(e) => setPlans(e.target.checked)}>
              Plan them at their times (otherwise they wait in the tray)
            </Tick>
          )}
          <Button kind="main" mt="8px" disabled={!lines.size || form.busy} onClick={bring}>
            Bring in {lines.size} {lines.size === 1 ? "row" : "rows"}
          </Button>
        </>
      )}
    </>
  );
}

function PlanRow({ row, on, toggle }: { row: Row; on: boolean; toggle: () => void }) {
  const { me } = useBrandContext();
  return (
    <Flex gap="10px" borderBottomWidth="1px" borderColor="rule" py="6px" align="flex-start">
      <chakra.label display="grid" placeItems="center" minW="24px" minH="24px">
        <input
          type="checkbox"
          checked={on}
          disabled={row.faults.length > 0}
          onChange={toggle}
          aria-label={`Row ${row.line}`}
        />
      </chakra.label>
      <Box w="150px" flex="none" fontVariantNumeric="tabular-nums">
        {row.wall_time
          ? formatWallTime(row.wall_time, me.clock24)
          : row.day
            ? `${row.day}${row.faults.length ? "" : ", next slot"}`
            : "no date"}
        <Box color="faded" fontSize="12px">
          row {row.line}
          {row.known && ", brought in before"}
        </Box>
      </Box>
      <Box flex="1" minW="0">
        <Box overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
          {row.title || row.text || <i>no words</i>}
        </Box>
        <Box color="faded" fontSize="12px">
          {[row.handles.join(", "), row.media.join(", "), row.labels.join(", ")].filter(Boolean).join(" · ")}
        </Box>
        {row.faults.map((f) => (
          <Box key={f.column + f.message} color="pimenton" fontSize="12px">
            <b>{f.column || "row"}</b>: {f.message}
          </Box>
        ))}
        {row.advice.map((f) => (
          <Box key={f.column + f.message} color="maizeInk" fontSize="12px">
            <b>{f.column}</b>: {f.message}
          </Box>
        ))}
      </Box>
    </Flex>
  );
}
