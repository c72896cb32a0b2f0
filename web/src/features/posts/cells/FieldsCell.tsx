import { Box, chakra } from "@chakra-ui/react";
import { memo, useId } from "react";
import type { Column, Network } from "@/api/client";
import { Input } from "@/ui/Field";
import { Picker } from "@/ui/Select";
import { Area } from "@/ui/TextArea";
import { type BenchColumn, withField, withOverrides } from "../draft";
import { usePlace } from "../place";
import { Findings } from "./Findings";
import { PlacesField } from "./PlacesField";

type Rule = Network["fields"][number];
type Props = {
  column: BenchColumn;
  network: Network | undefined;
  values: Record<string, string>;
  form: string;
  check: Column | undefined;
};

/** What a network asks for beside text and media, as its rule sheet has it; and whether it is a post or a story. */
export const FieldsCell = memo(function FieldsCell({ column, network, values, form, check }: Props) {
  const { change } = usePlace();
  const id = useId();
  if (!check || !network) return null;
  const shown = form === "story" ? [] : network.fields.filter((rule) => check.asks.includes(rule.name));
  if (shown.length === 0 && !network.takes_stories) return <Box color="faded">Nothing more is asked for.</Box>;
  return (
    <Box display="grid" gap="8px">
      {network.takes_stories && (
        <Box>
          <chakra.label htmlFor={id} display="block" fontSize="11.5px" color="faded" mb="2px">
            Goes out as
          </chakra.label>
          <Picker
            id={id}
            aria-label={`Goes out as, on ${network.name}`}
            value={form}
            fontSize="13px"
            minH="30px"
            onChange={(e) =>
              change((d) => withOverrides(d, column.key, { form: e.currentTarget.value === "story" ? "story" : null }))
            }
          >
            <option value="post">a post</option>
            <option value="story">a story</option>
          </Picker>
        </Box>
      )}
      {shown.map((rule) => (
        <Box key={rule.name}>
          <OneField
            rule={rule}
            label={`${rule.label} for ${network.name}`}
            value={values[rule.name] ?? ""}
            change={(value) => change((d) => withField(d, column.key, rule.name, value))}
          />
          <Findings column={column} findings={check.findings.filter((f) => f.field === `fields/${rule.name}`)} />
        </Box>
      ))}
    </Box>
  );
});

const TYPES: Record<string, string> = { date: "datetime-local", address: "url" };
const HINTS: Record<string, string> = { ages: "18-35, or 18+", tags: "with commas between" };

type OneProps = { rule: Rule; label: string; value: string; change: (value: string) => void };

function OneField({ rule, label, value, change }: OneProps) {
  const id = useId();
  const shared = { id, "aria-label": label, value, fontSize: "13px", minH: "30px", placeholder: HINTS[rule.type] };
  return (
    <>
      <chakra.label htmlFor={id} display="block" fontSize="11.5px" color="faded" mb="2px">
        {rule.label}
        {rule.required ? "" : " (may stay empty)"}
      </chakra.label>
      {rule.type === "countries" ? (
        <PlacesField id={id} label={label} value={value} change={change} />
      ) : rule.choices.length > 0 ? (
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
