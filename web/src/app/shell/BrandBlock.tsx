import { chakra } from "@chakra-ui/react";

/** The brand's initial on its ink. */
export function BrandBlock({ ink, name, size = 26 }: { ink: string; name: string; size?: number }) {
  return (
    <chakra.b
      aria-hidden
      w={`${size}px`}
      h={`${size}px`}
      borderRadius="3px"
      display="inline-grid"
      placeItems="center"
      bg={ink}
      color="paper"
      fontFamily="heading"
      fontWeight="600"
      fontSize={`${size * 0.58}px`}
      flex="none"
    >
      {name.slice(0, 1)}
    </chakra.b>
  );
}
