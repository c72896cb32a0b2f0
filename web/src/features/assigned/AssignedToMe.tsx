import { chakra } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { StateShape } from "@/ui/StateShape";
import { useAssigned } from "./useAssigned";

const Count = chakra("span", {
  base: { fontWeight: "700", fontVariantNumeric: "tabular-nums", color: "ink" },
});

/** In the masthead: how much waits on one, in every brand; the way to the list. */
export function AssignedToMe() {
  const waiting = useAssigned().data;
  if (!waiting) return null;
  const late = waiting.items.some((item) => item.late);
  return (
    <Link to="/waiting" aria-label={`${waiting.count} ${waiting.count === 1 ? "thing waits" : "things wait"} on you`}>
      <chakra.span
        display="inline-flex"
        gap="6px"
        alignItems="center"
        minH="28px"
        lineHeight="28px"
        whiteSpace="nowrap"
        color="faded"
      >
        <StateShape state="up_for_signoff" size={15} />
        <Count color={late ? "pimenton" : "ink"}>{waiting.count}</Count>
      </chakra.span>
    </Link>
  );
}
