import { Box, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import type { Column, Delivery, Network, Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { Kbd } from "@/ui/Kbd";
import { StateShape } from "@/ui/StateShape";
import { standingFoot } from "@/ui/standingFoot";
import type { BenchColumn } from "./draft";
import { columnName } from "./place";
import type { usePlan } from "./usePlan";

type Props = {
  checks: Map<string, Column>;
  columns: BenchColumn[];
  chosen: Profile[];
  deliveries: Delivery[];
  networks: Map<string, Network>;
  plan: ReturnType<typeof usePlan>;
};

const OPEN = new Set(["unplanned", "called_off", "in_trouble", "missed"]);

/** What can go and what can't, and the one filled button. */
export function Foot({ checks, columns, chosen, deliveries, networks, plan }: Props) {
  const { brand, may } = useBrandContext();
  const fits = new Set(columns.filter((c) => checks.get(c.key)?.fits).flatMap((c) => c.profiles.map((p) => p.id)));
  const stopped = columns.filter((c) => checks.get(c.key)?.fits === false).map((c) => columnName(c, networks));
  const open = chosen.filter((p) => OPEN.has(deliveries.find((d) => d.profile === p.id)?.state ?? "unplanned"));
  const ready = open.filter((p) => fits.has(p.id));
  return (
    <Flex
      ref={standingFoot}
      as="section"
      aria-label="Planning"
      bg="wash"
      borderTopWidth="2px"
      borderColor="ink"
      align="center"
      gap="16px"
      px={{ base: "12px", md: "24px" }}
      py="10px"
      flexWrap="wrap"
      position="sticky"
      bottom="0"
      zIndex="5"
    >
      {stopped.length > 0 && (
        <Flex align="center" gap="6px" color="pimenton" fontWeight="600">
          <StateShape state="in_trouble" /> {stopped.join(", ")} can't take it yet.
        </Flex>
      )}
      <Box color="faded">
        {chosen.length === 0
          ? "No profile is chosen."
          : open.length === 0
            ? "Everything chosen here is planned, or out already."
            : `${ready.length} of ${open.length} ${open.length === 1 ? "delivery" : "deliveries"} to plan ${ready.length === 1 ? "fits" : "fit"}.`}
        {brand.needs_signoff && ` ${brand.name} signs off before anything goes out.`}
      </Box>
      <Box flex="1">
        {plan.problem && !plan.problem.at("/when/wall_time") && (
          <Box role="alert" color="pimenton">
            {plan.problem.message}
          </Box>
        )}
      </Box>
      <Button asChild>
        <Link to="/$brand/calendar" params={{ brand: brand.slug }} search={{}}>
          Keep in the tray
        </Link>
      </Button>
      {may("publish") ? (
        <Button kind="main" disabled={plan.busy || ready.length === 0} onClick={() => void plan.go()}>
          {plan.when.kind === "now" ? "Send" : "Plan"} {ready.length || ""} <Kbd>ctrl ⏎</Kbd>
        </Button>
      ) : (
        <Box color="faded">Planning is for the coordinator; your draft waits in the tray.</Box>
      )}
    </Flex>
  );
}
