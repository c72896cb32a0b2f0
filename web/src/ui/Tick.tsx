import { chakra } from "@chakra-ui/react";
import type { ComponentProps, ReactNode } from "react";

const Label = chakra("label", {
  base: { display: "flex", gap: "8px", alignItems: "flex-start", minHeight: "28px", py: "3px", cursor: "pointer" },
});
type Props = Omit<ComponentProps<"input">, "type"> & { children: ReactNode; kind?: "checkbox" | "radio" };

/** A tick box, or one of several to choose from, with its words. */
export function Tick({ children, kind = "checkbox", ...rest }: Props) {
  return (
    <Label>
      <chakra.input type={kind} mt="3px" flex="none" w="15px" h="15px" accentColor="var(--m-colors-anil)" {...rest} />
      <span>{children}</span>
    </Label>
  );
}
