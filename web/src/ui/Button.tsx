import { chakra } from "@chakra-ui/react";

/** A button: `main` is the page's one filled action, `quiet` has no frame, `link` reads as a link. */
export const Button = chakra(
  "button",
  {
    base: {
      display: "inline-flex",
      alignItems: "center",
      gap: "8px",
      borderRadius: "3px",
      fontWeight: "600",
      cursor: "pointer",
      whiteSpace: "nowrap",
      minHeight: "32px",
      minWidth: "28px",
      justifyContent: "center",
      _disabled: { opacity: 0.55, cursor: "default" },
    },
    variants: {
      kind: {
        main: { bg: "pimenton", color: "paper", px: "14px", py: "8px", _hover: { filter: "brightness(1.08)" } },
        plain: {
          bg: "card",
          borderWidth: "1px",
          borderColor: "rule",
          px: "12px",
          py: "5px",
          _hover: { borderColor: "faded" },
        },
        quiet: { px: "8px", py: "5px", color: "faded", _hover: { color: "ink" } },
        link: {
          color: "anil",
          minHeight: "24px",
          borderBottomWidth: "1px",
          borderColor: "anil",
          borderRadius: "0",
          px: "0",
        },
      },
    },
    defaultVariants: { kind: "plain" },
  },
  { defaultProps: { type: "button" } },
);
