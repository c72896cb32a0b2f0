import { chakra } from "@chakra-ui/react";
import type { ComponentProps } from "react";
import { fieldLook, Labelled } from "./Labelled";

export const Picker = chakra("select", { base: { ...fieldLook, minHeight: "34px", px: "8px", maxW: "100%" } });

type Props = ComponentProps<typeof Picker> & { label: string; error?: string };

/** A labelled choice with its error beside it. */
export function Select({ label, error, children, ...rest }: Props) {
  return (
    <Labelled label={label} error={error}>
      {(told) => (
        <Picker {...told} {...rest}>
          {children}
        </Picker>
      )}
    </Labelled>
  );
}
