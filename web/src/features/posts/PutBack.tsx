import { chakra } from "@chakra-ui/react";

/** The thread that cuts a field of its own back to the master. */
export function PutBack({ words, press }: { words: string; press: () => void }) {
  return (
    <chakra.button
      type="button"
      aria-label={`own: ${words}`}
      title={words}
      onClick={press}
      float="right"
      fontSize="11px"
      lineHeight="14px"
      minH="24px"
      px="4px"
      color="anil"
      cursor="pointer"
      textDecoration="underline dashed"
      textUnderlineOffset="3px"
    >
      own ✂
    </chakra.button>
  );
}
