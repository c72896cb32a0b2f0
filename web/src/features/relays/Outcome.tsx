import { Box, Flex } from "@chakra-ui/react";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { Tick } from "@/ui/Tick";
import { Part } from "./Part";
import type { Draft } from "./settings";

type Props = {
  data: Draft;
  set: (part: Partial<Draft>) => void;
  at: (pointer: string) => string | undefined;
};
const ASKS: [Draft["asks"], string][] = [
  ["goes", "goes out by itself"],
  ["asks", "asks first: a draft waits for your word"],
  ["tells", "only tells you: a draft when you want one"],
];

/** How it goes out, when, and how much of it. Sign-off is asked of it as of any post. */
export function Outcome({ data, set, at }: Props) {
  const count = (name: "minutes" | "per_day" | "ceiling", label: string, w: string) => (
    <Box w={w}>
      <Field
        label={label}
        type="number"
        min={1}
        value={data[name] ?? ""}
        onChange={(e) => set({ [name]: Number(e.currentTarget.value) || (name === "per_day" ? null : 1) })}
        error={at(`/${name}`)}
      />
    </Box>
  );
  const clock = (name: "goes_from" | "goes_until", label: string) => (
    <Box w="120px">
      <Field
        label={label}
        type="time"
        value={data[name]?.slice(0, 5) ?? ""}
        onChange={(e) => set({ [name]: e.currentTarget.value || null })}
        error={at(`/${name}`)}
      />
    </Box>
  );
  return (
    <Part title="Goes">
      <Box role="radiogroup" aria-label="What becomes of it">
        {ASKS.map(([value, words]) => (
          <Tick
            key={value}
            kind="radio"
            name="asks"
            checked={data.asks === value}
            onChange={() => set({ asks: value })}
          >
            {words}
          </Tick>
        ))}
      </Box>
      <Flex gap="0 16px" flexWrap="wrap" mt="6px">
        <Box w="180px">
          <Select label="When" value={data.how} onChange={(e) => set({ how: e.currentTarget.value as Draft["how"] })}>
            <option value="at_once">at once</option>
            <option value="after">after some minutes</option>
            <option value="slot">at the next free slot</option>
          </Select>
        </Box>
        {data.how === "after" && count("minutes", "Minutes", "110px")}
        {count("per_day", "A day at most", "110px")}
        {clock("goes_from", "Goes from")}
        {clock("goes_until", "until")}
        {count("ceiling", "Pauses beyond, an hour", "150px")}
      </Flex>
    </Part>
  );
}
