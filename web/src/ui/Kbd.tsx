import { chakra } from "@chakra-ui/react";

export const Kbd = chakra("kbd", {
  base: {
    fontFamily: "body",
    fontSize: "11px",
    lineHeight: "1",
    fontWeight: "600",
    borderWidth: "1px",
    borderColor: "currentColor",
    borderRadius: "3px",
    px: "4px",
    py: "2px",
  },
});
