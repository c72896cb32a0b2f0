import { Box, chakra, Flex } from "@chakra-ui/react";
import { useId } from "react";
import type { Column } from "@/api/client";
import { PutBack } from "./PutBack";

type Props = {
  label: string;
  value: string;
  change: (text: string) => void;
  inherited?: boolean;
  putBack?: () => void;
  length?: Column;
  error?: string;
  autoFocus?: boolean;
};

const Area = chakra("textarea", {
  base: {
    display: "block",
    w: "100%",
    minH: "92px",
    maxH: "320px",
    bg: "transparent",
    resize: "none",
    fieldSizing: "content",
    lineHeight: "19px",
    overflowWrap: "anywhere",
  },
});

/** A text of the matrix. An inherited one shows the master's words; typing in it makes it its own. */
export function TextCell({ label, value, change, inherited, putBack, length, error, autoFocus }: Props) {
  const id = useId();
  const over = length && length.length > length.limit;
  return (
    <>
      {putBack && !inherited && <PutBack words={`Put ${label} back to the master`} press={putBack} />}
      <Area
        aria-label={inherited ? `${label}, inherited from the master` : label}
        aria-invalid={error || over ? true : undefined}
        aria-describedby={id}
        data-column=""
        value={value}
        onChange={(e) => change(e.target.value)}
        placeholder={putBack ? "Inherits the master" : "What do you want to say?"}
        color={inherited ? "faded" : "ink"}
        fontStyle={inherited ? "italic" : undefined}
        autoFocus={autoFocus}
        dir="auto"
      />
      <Flex
        id={id}
        fontSize="11.5px"
        color={over ? "pimenton" : "faded"}
        fontWeight={over ? "700" : undefined}
        fontVariantNumeric="tabular-nums"
        mt="6px"
        minH="16px"
      >
        {length && `${length.length.toLocaleString("en")} of ${length.limit.toLocaleString("en")}`}
      </Flex>
      {error && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {error}
        </Box>
      )}
    </>
  );
}
