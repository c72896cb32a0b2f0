import { Box, chakra, Flex } from "@chakra-ui/react";
import { memo, type ReactNode, useId, useRef } from "react";
import type { BenchColumn } from "../draft";
import { Palette } from "../palette/Palette";
import { usePalette } from "../palette/usePalette";
import { TextTools } from "../wording/TextTools";
import { useTypedText } from "./useTypedText";

export type TextPart = "text" | "first_comment";
type Props = {
  label: string;
  value: string;
  change: (text: string) => void;
  inherited?: boolean;
  length?: number;
  limit?: number;
  error?: string;
  autoFocus?: boolean;
  placeholder?: string;
  low?: boolean;
  /** The thread that cuts it back to the master, when it is its own. */
  thread?: ReactNode;
  /** The column it belongs to; none is the master. */
  column?: BenchColumn;
};

const Area = chakra("textarea", {
  base: {
    display: "block",
    w: "100%",
    maxH: "320px",
    bg: "transparent",
    resize: "none",
    fieldSizing: "content",
    lineHeight: "19px",
    overflowWrap: "anywhere",
  },
});

/** A text of the matrix. An inherited one shows the master's words; typing in it makes it its own. `/` opens the palette. */
export const TextCell = memo(function TextCell(props: Props) {
  const { label, inherited, length, limit, error, autoFocus, placeholder, low, column, thread } = props;
  const id = useId();
  const area = useRef<HTMLTextAreaElement>(null);
  const [value, change] = useTypedText(props.value, props.change);
  const palette = usePalette(area, value, change);
  const over = length !== undefined && limit !== undefined && length > limit;
  return (
    <Box position="relative">
      <Area
        ref={area}
        aria-label={inherited ? `${label}, inherited from the master` : label}
        aria-invalid={error || over ? true : undefined}
        aria-describedby={id}
        aria-haspopup="listbox"
        data-column={low ? undefined : ""}
        minH={low ? "38px" : "92px"}
        value={value}
        onChange={(e) => {
          change(e.target.value);
          palette.typed(e.target);
        }}
        onKeyDown={palette.keyDown}
        onBlur={palette.blur}
        placeholder={placeholder}
        color={inherited ? "faded" : "ink"}
        fontStyle={inherited ? "italic" : undefined}
        autoFocus={autoFocus}
        dir="auto"
      />
      {palette.open && <Palette palette={palette} network={column?.network} />}
      <Flex mt="4px" minH="24px" align="center" justify="space-between" gap="8px">
        <Box
          id={id}
          fontSize="11.5px"
          color={over ? "pimenton" : "faded"}
          fontWeight={over ? "700" : undefined}
          fontVariantNumeric="tabular-nums"
          whiteSpace="nowrap"
        >
          {length !== undefined &&
            limit !== undefined &&
            `${length.toLocaleString("en")} of ${limit.toLocaleString("en")}`}
        </Box>
        <Flex align="center" gap="4px">
          <TextTools
            label={label}
            name={`${column ? column.key : "master"}, ${low ? "first comment" : "text"}`}
            area={area}
            value={value}
            change={change}
            insert={palette.insert}
            network={column?.key}
            comments={low}
          />
          {thread}
        </Flex>
      </Flex>
      {error && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {error}
        </Box>
      )}
    </Box>
  );
});
