import { Box, chakra, Flex } from "@chakra-ui/react";
import type { Delivery, Problem, Profile, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatWallTime } from "@/ui/times";
import { WallTimeInput } from "@/ui/WallTimeInput";
import type { When } from "../usePlan";
import { formatSpread, SpreadFields } from "./SpreadFields";

const KINDS: [When["kind"], string][] = [
  ["next_slot", "Next free slot"],
  ["at", "At a day and time"],
  ["now", "Now"],
  ["kept", "Each at the time it was copied with"],
];

/** When the post is to go out. */
export function MasterTime({
  when,
  setWhen,
  problem,
  kept,
  profiles,
}: {
  when: When;
  setWhen: (when: When) => void;
  problem: Problem | null;
  kept: boolean;
  profiles: Profile[];
}) {
  const { brand } = useBrandContext();
  const wrong = problem?.at("/when/wall_time") ?? problem?.at("/when");
  return (
    <chakra.fieldset>
      <chakra.legend position="absolute" w="1px" h="1px" overflow="hidden" clipPath="inset(50%)">
        When
      </chakra.legend>
      {KINDS.filter(([kind]) => kind !== "kept" || kept).map(([kind, words]) => (
        <chakra.label key={kind} display="flex" gap="8px" alignItems="center" minH="24px" cursor="pointer">
          <input type="radio" name="when" checked={when.kind === kind} onChange={() => setWhen({ ...when, kind })} />
          {words}
        </chakra.label>
      ))}
      {when.kind === "at" ? (
        <WallTimeInput
          date={when.date}
          time={when.time}
          zone={brand.zone}
          change={(date, time) => setWhen({ ...when, date, time })}
          error={wrong}
        />
      ) : (
        wrong && (
          <Box role="alert" color="pimenton" fontSize="12px" lineHeight="16px">
            {wrong}
          </Box>
        )
      )}
      <SpreadFields when={when} setWhen={setWhen} profiles={profiles} />
    </chakra.fieldset>
  );
}

/** What stands for each profile of a network. */
export function VersionTime({
  profiles,
  deliveries,
  times,
}: {
  profiles: Profile[];
  deliveries: Delivery[];
  times: Schemas["TimeOut"][];
}) {
  const { me } = useBrandContext();
  return (
    <Box display="grid" gap="6px">
      {profiles.map((profile) => {
        const delivery = deliveries.find((d) => d.profile === profile.id);
        const state = delivery?.state ?? "unplanned";
        const would = times.find((t) => t.profile === profile.id);
        return (
          <Flex key={profile.id} gap="6px" align="center" data-delivery-state={state}>
            <StateShape state={state} />
            <span>
              {profile.handle}{" "}
              <chakra.span color="faded">
                {delivery?.wall_time ? formatWallTime(delivery.wall_time, me.clock24) : "no time yet"},{" "}
                {stateWords(state)}
              </chakra.span>
              {would && state === "unplanned" && (
                <chakra.span display="block" color={would.wall_time ? "anil" : "pimenton"} data-testid="would-go">
                  {would.wall_time
                    ? `would go ${formatWallTime(would.wall_time, me.clock24)}${formatSpread(would)}`
                    : would.reason}
                </chakra.span>
              )}
            </span>
          </Flex>
        );
      })}
    </Box>
  );
}
