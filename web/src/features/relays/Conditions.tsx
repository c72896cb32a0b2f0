import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { Field } from "@/ui/Field";
import { Tick } from "@/ui/Tick";
import { Part } from "./Part";
import type { Row } from "./queries";
import { type Draft, listOf } from "./settings";

type Props = {
  data: Draft;
  set: (part: Partial<Draft>) => void;
  kind: Row["kind"];
  error: (pointer: string) => string | undefined;
};
const HAS = [
  ["picture", "a picture"],
  ["video", "a video"],
  ["link", "a link"],
] as const;

/** Which items it takes. */
export function Conditions({ data, set, kind, error }: Props) {
  const now = data.conditions;
  const change = (part: Partial<Draft["conditions"]>) => set({ conditions: { ...now, ...part } });
  return (
    <Part title="Takes">
      <Flex gap="4px 16px" flexWrap="wrap" align="center">
        <span>Only what has</span>
        {HAS.map(([what, words]) => (
          <Tick
            key={what}
            checked={now.has.includes(what)}
            onChange={(e) =>
              change({ has: e.target.checked ? [...now.has, what] : now.has.filter((one) => one !== what) })
            }
          >
            {words}
          </Tick>
        ))}
      </Flex>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} columnGap="16px">
        <Listed
          label="Says one of these words"
          list={now.words}
          set={(words) => change({ words })}
          error={error("/conditions/words")}
        />
        <Listed
          label="Says none of these"
          list={now.but}
          set={(but) => change({ but })}
          error={error("/conditions/but")}
        />
        <Listed
          label={kind === "feed" ? "In one of these categories" : "With one of these hashtags"}
          list={now.tags}
          set={(tags) => change({ tags })}
          error={error("/conditions/tags")}
        />
        <Listed
          label="In one of these languages (en, es …)"
          list={now.languages}
          set={(languages) => change({ languages })}
          error={error("/conditions/languages")}
        />
        <Field
          label="Appeared from"
          type="time"
          value={now.hours?.[0]?.slice(0, 5) ?? ""}
          onChange={(e) => change({ hours: pair(e.currentTarget.value, now.hours?.[1]) })}
        />
        <Field
          label="until"
          type="time"
          value={now.hours?.[1]?.slice(0, 5) ?? ""}
          onChange={(e) => change({ hours: pair(now.hours?.[0], e.currentTarget.value) })}
          error={error("/conditions/hours")}
        />
      </Box>
      {kind === "profile" && (
        <Flex gap="4px 16px" flexWrap="wrap" align="center" mb="8px">
          <span>Only</span>
          {(["post", "story"] as const).map((what) => (
            <Tick
              key={what}
              checked={now.kinds.includes(what)}
              onChange={(e) =>
                change({ kinds: e.target.checked ? [...now.kinds, what] : now.kinds.filter((one) => one !== what) })
              }
            >
              {what === "post" ? "posts" : "stories"}
            </Tick>
          ))}
        </Flex>
      )}
    </Part>
  );
}

const pair = (from: string | undefined, until: string | undefined): string[] | null =>
  from || until ? [from || "00:00", until || "23:59"] : null;

type ListedProps = { label: string; list: string[]; set: (list: string[]) => void; error?: string };

/** Several words with commas between them. */
function Listed({ label, list, set, error }: ListedProps) {
  const [text, setText] = useState(list.join(", "));
  return (
    <Field
      label={label}
      value={text}
      error={error}
      onChange={(e) => {
        setText(e.currentTarget.value);
        set(listOf(e.currentTarget.value));
      }}
    />
  );
}
