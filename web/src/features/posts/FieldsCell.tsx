import { Box, chakra } from "@chakra-ui/react";
import { useId } from "react";
import type { Column, Network } from "@/api/client";
import { Input } from "@/ui/Field";
import { Picker } from "@/ui/Select";
import { Area } from "@/ui/TextArea";
import { Findings } from "./Findings";

type Rule = Network["fields"][number];
type Props = {
  network: Network | undefined;
  values: Record<string, string>;
  change: (name: string, value: string) => void;
  column: Column | undefined;
};

/** What a network asks for beside text and media, as its rule sheet has it. */
export function FieldsCell({ network, values, change, column }: Props) {
  if (!column) return null;
  const shown = (network?.fields ?? []).filter((rule) => column.asks.includes(rule.name));
  if (shown.length === 0) return <Box color="faded">Nothing more is asked for.</Box>;
  return (
    <Box display="grid" gap="8px">
      {shown.map((rule) => (
        <Box key={rule.name}>
          <OneField
            rule={rule}
            label={`${rule.label} for ${network?.name}`}
            value={values[rule.name] ?? ""}
            change={(value) => change(rule.name, value)}
          />
          <Findings findings={column.findings.filter((f) => f.field === `fields/${rule.name}`)} />
        </Box>
      ))}
    </Box>
  );
}

const TYPES: Record<string, string> = { date: "datetime-local", address: "url" };

function OneField({
  rule,
  label,
  value,
  change,
}: {
  rule: Rule;
  label: string;
  value: string;
  change: (value: string) => void;
}) {
  const id = useId();
  const shared = { id, "aria-label": label, value, fontSize: "13px", minH: "30px" };
  return (
    <>
      <chakra.label htmlFor={id} display="block" fontSize="11.5px" color="faded" mb="2px">
        {rule.label}
        {rule.required ? "" : " (may stay empty)"}
      </chakra.label>
      {rule.choices.length > 0 ? (
        <Picker {...shared} onChange={(e) => change(e.currentTarget.value)}>
          <option value="">choose</option>
          {rule.choices.map((choice) => (
            <option key={choice} value={choice}>
              {choice}
            </option>
          ))}
        </Picker>
      ) : (rule.limit ?? 0) > 300 ? (
        <Area {...shared} rows={3} onChange={(e) => change(e.currentTarget.value)} />
      ) : (
        <Input {...shared} type={TYPES[rule.type] ?? "text"} onChange={(e) => change(e.currentTarget.value)} />
      )}
    </>
  );
}
