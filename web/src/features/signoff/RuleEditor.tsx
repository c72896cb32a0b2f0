import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useBrandContext } from "@/app/brandContext";
import { peopleQueries } from "@/data/people";
import { useLabels } from "@/features/calendar/queries";
import { useProfiles } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { Chosen } from "./Chosen";
import type { Rule, Rules } from "./RulesPage";

type Props = {
  rule: Rule;
  rules: Rules;
  n: number;
  at: (pointer: string) => string | undefined;
  change: (more: Partial<Rule>) => void;
  remove: () => void;
};

const HOW: [Rule["mode"], string][] = [
  ["any", "any one of them"],
  ["all", "all of them"],
  ["in_order", "all of them, in this order"],
];

/** One rule: what it asks of on the left, who must agree on the right. */
export function RuleEditor({ rule, rules, n, at, change, remove }: Props) {
  const { brand } = useBrandContext();
  const profiles = useProfiles(brand.slug).data ?? [];
  const labels = useLabels(brand.slug).data ?? [];
  const people = useQuery(peopleQueries.list(brand.slug)).data;
  const ids = (list: (string | number)[]) => list.map(Number);
  return (
    <Box as="fieldset" borderTopWidth="2px" borderColor="ink" pt="10px" mt="16px" aria-label={`Rule ${n + 1}`}>
      <Flex gap="16px" align="flex-start">
        <Box flex="1" maxW="380px">
          <Field
            label="What the rule is called"
            placeholder="Offers go past the director"
            value={rule.name}
            maxLength={80}
            error={at("/name")}
            onChange={(e) => change({ name: e.currentTarget.value })}
          />
        </Box>
        <Box flex="1" />
        <Button aria-label={`Take out rule ${n + 1}`} onClick={remove}>
          Take out
        </Button>
      </Flex>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} gap="28px">
        <Box>
          <chakra.h2 fontSize="15px" mb="6px">
            Asks of
          </chakra.h2>
          <Chosen
            label="Profiles"
            none="every profile"
            options={profiles.map((p) => ({ id: p.id, name: p.display_name || p.handle }))}
            chosen={rule.profiles}
            change={(list) => change({ profiles: ids(list) })}
            error={at("/profiles")}
          />
          <Chosen
            label="Labels"
            none="with any label, or none"
            options={labels.map((l) => ({ id: l.id, name: l.name }))}
            chosen={rule.labels}
            change={(list) => change({ labels: ids(list) })}
            error={at("/labels")}
          />
          <Chosen
            label="Kinds of post"
            none="every kind"
            options={rules.kinds.map((kind) => ({ id: kind, name: kind }))}
            chosen={rule.kinds}
            change={(list) => change({ kinds: list.map(String) })}
            error={at("/kinds")}
          />
          <Chosen
            label="Authors"
            none="whoever writes"
            options={(people?.members ?? []).map((m) => ({ id: m.user, name: m.name }))}
            chosen={rule.authors}
            change={(list) => change({ authors: ids(list) })}
            error={at("/authors")}
          />
        </Box>
        <Box>
          <chakra.h2 fontSize="15px" mb="6px">
            Who agrees
          </chakra.h2>
          <Chosen
            label="Named"
            none="anyone who may sign off"
            options={rules.signers.map((s) => ({ id: s.key, name: s.name }))}
            chosen={rule.signers}
            change={(list) => change({ signers: list.map(String), mode: list.length ? rule.mode : "any" })}
            error={at("/signers")}
            ordered={rule.mode === "in_order"}
          />
          {rule.signers.length > 1 && (
            <Select
              label="How many of them"
              value={rule.mode}
              onChange={(e) => change({ mode: HOW.find(([how]) => how === e.currentTarget.value)?.[0] ?? "any" })}
            >
              {HOW.map(([how, words]) => (
                <option key={how} value={how}>
                  {words}
                </option>
              ))}
            </Select>
          )}
          <Field
            label="Wanted so many hours before it goes out (empty: up to the last minute)"
            type="number"
            min={0}
            max={720}
            maxW="120px"
            value={rule.before_hours ?? ""}
            error={at("/before_hours")}
            onChange={(e) =>
              change({ before_hours: e.currentTarget.value === "" ? null : Number(e.currentTarget.value) })
            }
          />
        </Box>
      </Box>
    </Box>
  );
}
