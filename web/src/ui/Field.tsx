import { chakra } from "@chakra-ui/react";
import type { ComponentProps } from "react";
import { fieldLook, Labelled } from "./Labelled";

export const Input = chakra("input", {
  base: { ...fieldLook, px: "10px", py: "6px", minHeight: "34px", fontVariantNumeric: "tabular-nums" },
});

type Props = ComponentProps<typeof Input> & { label: string; error?: string };

/** A labelled input with its error beside it. */
export function Field({ label, error, ...rest }: Props) {
  return (
    <Labelled label={label} error={error}>
      {(told) => <Input {...told} {...rest} />}
    </Labelled>
  );
}
