import { chakra } from "@chakra-ui/react";

type Props = { label: string; value: number; least?: number; most?: number; set: (value: number) => void };

/** A number set by pointer or by arrow keys, from `least` to `most`. */
export function Slide({ label, value, least = 0, most = 1, set }: Props) {
  return (
    <chakra.label display="grid" gridTemplateColumns="92px 1fr" alignItems="center" fontSize="12px" color="faded">
      {label}
      <chakra.input
        type="range"
        min={least}
        max={Math.max(most, least)}
        step={0.005}
        value={value}
        disabled={most <= least}
        accentColor="var(--m-colors-anil)"
        minH="24px"
        onChange={(e) => set(Number(e.currentTarget.value))}
      />
    </chakra.label>
  );
}
