import { Box } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";

export type Label = Schemas["PostLabelOut"];
/** The twelve inks; each is told by its name too. */
export const INKS = [
  "anil", "pimenton", "epazote", "maize", "plum", "brick", "moss", "slate", "rose", "teal", "ochre", "smoke",
] as const; // biome-ignore format: one list

export const inkOf = (ink: string) => `var(--m-colors-${ink})`;

type Gathering = { id: number; name: string; ink: string };

/** Labels and campaigns to choose from, as one list. */
export function markChoices(labels: Gathering[], campaigns: Gathering[]) {
  const choice = (kind: string, one: Gathering, words: string) => ({
    value: `${kind}${one.id}`,
    words,
    mark: <InkMark ink={one.ink} />,
  });
  return [
    ...labels.map((one) => choice("l", one, one.name)),
    ...campaigns.map((one) => choice("c", one, `campaign ${one.name}`)),
  ];
}

/** A drop of a label's ink; its name stands beside it always. */
export function InkMark({ ink }: { ink: string }) {
  return (
    <Box
      as="span"
      aria-hidden
      w="10px"
      h="10px"
      flex="none"
      borderRadius="50% 50% 50% 0"
      style={{ background: inkOf(ink) }}
    />
  );
}
