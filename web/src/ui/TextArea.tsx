import { chakra } from "@chakra-ui/react";
import type { ComponentProps, ReactNode } from "react";
import { fieldLook, Labelled } from "./Labelled";

export const Area = chakra("textarea", { base: { ...fieldLook, px: "10px", py: "6px", lineHeight: "20px" } });

type Props = ComponentProps<typeof Area> & { label: string; error?: string; hint?: ReactNode };

/** A labelled field for several lines, with its error beside it. */
export function TextArea({ label, error, hint, ...rest }: Props) {
  return (
    <Labelled label={label} error={error} hint={hint}>
      {(told) => <Area {...told} {...rest} />}
    </Labelled>
  );
}
