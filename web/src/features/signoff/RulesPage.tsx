import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { previewSignRules, saveSignRules, signoffQueries } from "@/data/signoff";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { RuleEditor } from "./RuleEditor";
import { SignLinks } from "./SignLinks";

export type Rules = Schemas["RulesOut"];
export type Rule = Schemas["RuleOut"];

const FRESH: Rule = {
  name: "",
  signers: [],
  mode: "any",
  profiles: [],
  labels: [],
  kinds: [],
  authors: [],
  before_hours: null,
};

/** What a brand wants signed off, by whom and until when; and the links with which clients do it. */
export function RulesPage() {
  const { brand } = useBrandContext();
  const rules = useQuery(signoffQueries.rules(brand.slug));
  if (rules.error) return <QueryFailed error={rules.error} again={() => rules.refetch()} />;
  if (!rules.data) return <Loading />;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="1080px">
      <Box as="h1" fontSize="28px" lineHeight="32px" mb="4px">
        Sign-off of {brand.name}
      </Box>
      <Box color="faded" mb="18px" maxW="68ch">
        Nothing that a rule asks for goes out until everyone it names has agreed to the very wording that goes out. What
        no rule asks for goes when it is planned.
      </Box>
      <Editor key={JSON.stringify(rules.data.rules)} rules={rules.data} />
      <SignLinks signers={rules.data.signers} />
    </Box>
  );
}

function Editor({ rules }: { rules: Rules }) {
  const { brand, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [needed, setNeeded] = useState(rules.needed);
  const [moving, setMoving] = useState(rules.signoff_on_move);
  const [earlier, setEarlier] = useState(rules.earlier_signoff_counts);
  const [list, setList] = useState<(Rule & { key: number })[]>(() =>
    rules.rules.map((rule, key) => ({ ...rule, key })),
  );
  const [next, setNext] = useState(list.length);
  const [tried, setTried] = useState<({ of: string } & Schemas["RulesEffect"]) | null>(null);
  const may_change = may("manage_people");
  const change = (at: number, more: Partial<Rule>) =>
    setList((all) => all.map((rule, n) => (n === at ? { ...rule, ...more } : rule)));

  const body = {
    needed,
    signoff_on_move: moving,
    earlier_signoff_counts: earlier,
    rules: list.map(({ key: _, ...rule }) => rule),
  };
  const values = JSON.stringify(body);
  const effect = tried?.of === values ? tried : null;

  async function look() {
    await form.send(async () => {
      const found = await previewSignRules(brand.slug, body);
      setTried({ of: values, ...found });
    });
  }
  async function send() {
    const fine = await form.send(() => saveSignRules(brand.slug, body));
    if (!fine) return;
    await changed("brand", "post", "delivery");
    toast("The rules are kept. What is open is looked at again.");
  }
  return (
    <Box as="section" aria-label="Rules">
      <chakra.fieldset disabled={!may_change}>
        <Tick checked={needed} onChange={(e) => setNeeded(e.target.checked)}>
          Somebody signs off before anything goes out
        </Tick>
        {needed && (
          <>
            <Tick checked={moving} onChange={(e) => setMoving(e.target.checked)}>
              Another time asks again, not only another wording
            </Tick>
            <Tick checked={earlier} onChange={(e) => setEarlier(e.target.checked)}>
              An agreement given before a later one counts again when its wording is back
            </Tick>
            {list.length === 0 && (
              <Box my="12px" p="10px 14px" bg="wash" borderLeft="3px solid" borderColor="anil" maxW="68ch">
                There are no rules yet: everything is asked of anyone who may sign off
                {rules.signers.length > 0 && ` (${rules.signers.map((s) => s.name).join(", ")})`}.
              </Box>
            )}
            {list.map((rule, n) => (
              <RuleEditor
                key={rule.key}
                rule={rule}
                rules={rules}
                n={n}
                at={(pointer) =>
                  form.problem?.faults.find((f) => f.pointer.startsWith(`/rules/${n}${pointer}`))?.detail
                }
                change={(more) => change(n, more)}
                remove={() => setList((all) => all.filter((_, m) => m !== n))}
              />
            ))}
          </>
        )}
      </chakra.fieldset>
      {form.problem && form.problem.faults.length === 0 && (
        <Box role="alert" color="pimenton" mt="8px">
          {form.problem.message}
        </Box>
      )}
      {may_change ? (
        <Flex gap="10px" mt="14px" mb="28px" flexWrap="wrap">
          {needed && (
            <Button
              onClick={() => {
                setList((all) => [...all, { ...FRESH, key: next }]);
                setNext(next + 1);
              }}
            >
              Another rule
            </Button>
          )}
          <Button disabled={form.busy} onClick={() => void look()}>
            See what it does
          </Button>
          <Button kind="main" disabled={form.busy} onClick={() => void send()}>
            Keep
          </Button>
          <Box role="status" alignSelf="center" color="faded">
            {effect && effectWords(effect)}
          </Box>
        </Flex>
      ) : (
        <Box color="faded" my="14px">
          Only those who manage people can change this.
        </Box>
      )}
    </Box>
  );
}

/** What rules would do to what is planned. */
function effectWords({ held, free, posts }: Schemas["RulesEffect"]): string {
  const first = posts ? `Of the ${posts.toLocaleString("en")} posts that are due first: ` : "";
  if (!held && !free) return posts ? `${first}none is concerned.` : "Nothing that is planned changes.";
  const parts = [];
  if (held) parts.push(`${held} planned ${held === 1 ? "delivery waits" : "deliveries wait"} for sign-off then`);
  if (free) parts.push(`${free} that ${free === 1 ? "waits goes" : "wait go"} without it`);
  return `${first}${parts.join(", ")}.`;
}
