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
const ASKS: [Draft["confirmation"], string][] = [
  ["goes", "goes out by itself"],
  ["asks", "asks first: a draft waits for your word"],
  ["tells", "only tells you: a draft when you want one"],
];

/** How it goes out, when, and how much of it. Sign-off is asked of it as of any post. */
export function OutcomeFields({ data, set, at }: Props) {
  const count = (name: "delay_minutes" | "daily_limit" | "hourly_limit", label: string, w: string) => (
    <Box w={w}>
      <Field
        label={label}
        type="number"
        min={1}
        value={data[name] ?? ""}
        onChange={(e) => set({ [name]: Number(e.currentTarget.value) || (name === "daily_limit" ? null : 1) })}
        error={at(`/${name}`)}
      />
    </Box>
  );
  const clock = (name: "hours_from" | "hours_until", label: string) => (
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
            checked={data.confirmation === value}
            onChange={() => set({ confirmation: value })}
          >
            {words}
          </Tick>
        ))}
      </Box>
      <Flex gap="0 16px" flexWrap="wrap" mt="6px">
        <Box w="180px">
          <Select
            label="When"
            value={data.timing}
            onChange={(e) => set({ timing: e.currentTarget.value as Draft["timing"] })}
          >
            <option value="at_once">at once</option>
            <option value="after">after some minutes</option>
            <option value="slot">at the next free slot</option>
          </Select>
        </Box>
        {data.timing === "after" && count("delay_minutes", "Minutes", "110px")}
        {count("daily_limit", "A day at most", "110px")}
        {clock("hours_from", "Goes from")}
        {clock("hours_until", "until")}
        {count("hourly_limit", "Pauses beyond, an hour", "150px")}
      </Flex>
    </Part>
  );
}
