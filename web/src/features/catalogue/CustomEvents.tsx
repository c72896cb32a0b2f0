import { Box, Flex } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";

type Rule = Schemas["CustomRuleIO"];
type Props = {
  rules: Rule[];
  set: (rules: Rule[]) => void;
  columns: string[];
  at: (pointer: string) => string | undefined;
};

/** Events of the brand's own: a name, a column, and what it does. */
export function CustomEvents({ rules, set, columns, at }: Props) {
  const change = (n: number, part: Partial<Rule>) =>
    set(rules.map((rule, place) => (place === n ? { ...rule, ...part } : rule)));
  return (
    <Box as="fieldset" borderTopWidth="1px" borderColor="rule" pt="10px" mb="14px">
      <Box as="legend" fontWeight="600" fontSize="13px">
        Events of your own, beside new, lowered, reserved, sold, open day and coming soon
      </Box>
      {rules.map((rule, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a rule's name is being typed
        <Flex key={n} gap="12px" align="flex-start" flexWrap="wrap">
          <Box w="180px">
            <Field
              label="Name"
              value={rule.name}
              maxLength={60}
              onChange={(e) => change(n, { name: e.currentTarget.value })}
              error={at(`/rules/${n}/name`)}
            />
          </Box>
          <Box w="160px">
            {columns.length ? (
              <Select label="Column" value={rule.field} onChange={(e) => change(n, { field: e.currentTarget.value })}>
                <option value="">none</option>
                {[...new Set([...columns, ...(rule.field ? [rule.field] : [])])].map((column) => (
                  <option key={column}>{column}</option>
                ))}
              </Select>
            ) : (
              <Field label="Column" value={rule.field} onChange={(e) => change(n, { field: e.currentTarget.value })} />
            )}
          </Box>
          <Box w="130px">
            <Select
              label="When it"
              value={rule.change}
              onChange={(e) => change(n, { change: e.currentTarget.value as Rule["change"] })}
            >
              <option value="changes">changes</option>
              <option value="becomes">becomes …</option>
              <option value="falls">falls</option>
              <option value="rises">rises</option>
            </Select>
          </Box>
          {rule.change === "becomes" && (
            <Box w="130px">
              <Field label="Value" value={rule.value} onChange={(e) => change(n, { value: e.currentTarget.value })} />
            </Box>
          )}
          <Button
            kind="quiet"
            mt="22px"
            aria-label={`Take the event ${rule.name} out`}
            onClick={() => set(rules.filter((_, place) => place !== n))}
          >
            ✕
          </Button>
        </Flex>
      ))}
      <Button onClick={() => set([...rules, { name: "", field: columns[0] ?? "", change: "changes", value: "" }])}>
        Add an event
      </Button>
    </Box>
  );
}
