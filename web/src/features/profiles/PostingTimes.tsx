import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import type { Profile, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { insightQueries } from "@/data/insight";
import { Button } from "@/ui/Button";
import { formatClock, formatWeekday } from "@/ui/times";

type Slot = Schemas["SlotOut"];
const SHOWN = 5;

/** Times that the profile's own results say did better, and how sure that is; never more than they say. */
export function PostingTimes({ profile, take }: { profile: Profile; take: (slot: Slot) => void }) {
  const { brand, me, may } = useBrandContext();
  const found = useQuery(insightQueries.postingTimes(brand.slug, profile.id)).data;
  if (!found) return null;
  const hour = (h: number) => formatClock(`${String(h).padStart(2, "0")}:00`, me.clock24);
  return (
    <Box mt="18px" borderTopWidth="1px" borderColor="rule" pt="12px">
      <Box as="h3" fontSize="16px">
        Better times
      </Box>
      {found.why_not ? (
        <Box color="faded">{found.why_not}</Box>
      ) : (
        <>
          <Box color="faded" fontSize="12px" mb="6px">
            From the reactions to {found.posts} posts. Few posts at a time are drawn towards the usual.
          </Box>
          {found.hours.slice(0, SHOWN).map((one) => (
            <Flex
              key={`${one.weekday}${one.hour}`}
              gap="10px"
              py="3px"
              align="baseline"
              fontVariantNumeric="tabular-nums"
            >
              <Box w="92px" fontWeight="600">
                {formatWeekday(one.weekday)} {hour(one.hour)}
              </Box>
              <Box>
                {one.lift >= 0 ? "+" : "−"}
                {Math.abs(Math.round(one.lift * 100))} %{" "}
                <Box as="span" color="faded">
                  ({Math.round(one.low)} to {Math.round(one.high)} reactions, {one.posts}{" "}
                  {one.posts === 1 ? "post" : "posts"})
                </Box>
              </Box>
              <Box color={one.sure ? "epazote" : "faded"}>{one.sure ? "sure" : "may be chance"}</Box>
            </Flex>
          ))}
          {may("manage_profiles") && found.suggested_slots.length > 0 && (
            <Flex gap="6px" mt="8px" flexWrap="wrap" align="center">
              Add:
              {found.suggested_slots.map((slot) => (
                <Button key={`${slot.weekday}${slot.at}`} minH="26px" onClick={() => take(slot)}>
                  {formatWeekday(slot.weekday)} {formatClock(slot.at.slice(0, 5), me.clock24)}
                </Button>
              ))}
            </Flex>
          )}
        </>
      )}
    </Box>
  );
}
