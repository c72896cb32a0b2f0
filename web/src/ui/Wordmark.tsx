import { chakra } from "@chakra-ui/react";

export function Wordmark({ size = "24px" }: { size?: string }) {
  return (
    <chakra.span
      fontFamily="heading"
      fontStyle="italic"
      fontWeight="600"
      fontSize={size}
      lineHeight="1"
      letterSpacing="-0.01em"
    >
      Menudo
      <chakra.span fontStyle="normal" color="pimenton">
        .
      </chakra.span>
    </chakra.span>
  );
}
