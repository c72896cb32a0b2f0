import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { createDate, deleteDate, saveAlmanac } from "@/data/calendar";
import { useChanged } from "@/data/changes";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { Picker } from "@/ui/Select";
import { Tick } from "@/ui/Tick";
import { formatDay } from "@/ui/times";
import { useForm } from "@/ui/useForm";
import { useAlmanac } from "../queries";

/** Which days worth a post the brand sees. */
export function AlmanacPanel() {
  const { brand } = useBrandContext();
  const found = useAlmanac(brand.slug).data;
  return found ? <Choices almanac={found} /> : <Loading />;
}

function Choices({ almanac }: { almanac: Schemas["AlmanacOut"] }) {
  const { brand, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const write = may("write");
  async function keep(part: Partial<Schemas["AlmanacIn"]>) {
    const { countries, observances, excluded: without } = almanac;
    const body = { countries, observances, without, ...part };
    if (await form.send(() => saveAlmanac(brand.slug, body))) await changed("almanac");
  }
  const name = (code: string) => almanac.known.find((c) => c.code === code)?.name ?? code;
  return (
    <Box display="grid" gap="18px">
      <Box>
        <Box as="h3" fontSize="16px" mb="4px">
          Public holidays
        </Box>
        <Flex gap="6px" flexWrap="wrap" mb="6px">
          {almanac.countries.map((code) => (
            <Flex key={code} borderWidth="1px" borderColor="rule" borderRadius="3px" pl="8px" align="center">
              {name(code)}
              {write && (
                <Button
                  kind="quiet"
                  minH="26px"
                  aria-label={`Take out ${name(code)}`}
                  onClick={() => keep({ countries: almanac.countries.filter((c) => c !== code) })}
                >
                  ✕
                </Button>
              )}
            </Flex>
          ))}
        </Flex>
        {write && (
          <Picker
            aria-label="Add a country"
            value=""
            onChange={(e) => keep({ countries: [...almanac.countries, e.currentTarget.value] })}
          >
            <option value="">Add a country …</option>
            {almanac.known.map((c) => (
              <option key={c.code} value={c.code}>
                {c.name}
              </option>
            ))}
          </Picker>
        )}
      </Box>
      <OwnDates almanac={almanac} />
      <Box>
        <Box as="h3" fontSize="16px" mb="4px">
          Observances
        </Box>
        <Tick checked={almanac.observances} disabled={!write} onChange={(e) => keep({ observances: e.target.checked })}>
          Show days widely kept
        </Tick>
        {almanac.observances && (
          <Box maxH="320px" overflowY="auto" tabIndex={0} role="group" aria-label="Observances">
            {almanac.all.map((one) => (
              <Tick
                key={one.key}
                disabled={!write}
                checked={!almanac.excluded.includes(one.key)}
                onChange={(e) =>
                  keep({
                    excluded: e.target.checked
                      ? almanac.excluded.filter((k) => k !== one.key)
                      : [...almanac.excluded, one.key],
                  })
                }
              >
                {one.name} <chakra.span color="faded">{formatDay(one.next)}</chakra.span>
              </Tick>
            ))}
          </Box>
        )}
      </Box>
      {form.problem && (
        <Box role="alert" color="pimenton">
          {form.problem.message}
        </Box>
      )}
    </Box>
  );
}

function OwnDates({ almanac }: { almanac: Schemas["AlmanacOut"] }) {
  const { brand, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [name, setName] = useState("");
  const [rule, setRule] = useState("");
  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { name, rule };
    if (!(await form.send(() => createDate(brand.slug, body)))) return;
    setName("");
    setRule("");
    await changed("almanac");
  }
  async function remove(id: number) {
    if (await form.send(() => deleteDate(brand.slug, id))) await changed("almanac");
  }
  return (
    <Box>
      <Box as="h3" fontSize="16px" mb="4px">
        Our own dates
      </Box>
      {almanac.custom.map((one) => (
        <Flex key={one.id} align="center" justify="space-between" borderBottomWidth="1px" borderColor="rule">
          <span>
            {one.name} <chakra.span color="faded">{one.rule}</chakra.span>
          </span>
          {may("write") && (
            <Button kind="quiet" minH="28px" aria-label={`Delete ${one.name}`} onClick={() => remove(one.id)}>
              ✕
            </Button>
          )}
        </Flex>
      ))}
      {may("write") && (
        <chakra.form onSubmit={send} mt="8px">
          <Field
            label="Name"
            value={name}
            onChange={(e) => setName(e.currentTarget.value)}
            error={form.at("/name")}
            maxLength={120}
            required
          />
          <Field
            label="Day: 2026-12-13, or every year 12-13"
            value={rule}
            onChange={(e) => setRule(e.currentTarget.value)}
            error={form.at("/rule")}
            maxLength={40}
            required
          />
          <Button type="submit">Add date</Button>
        </chakra.form>
      )}
    </Box>
  );
}
