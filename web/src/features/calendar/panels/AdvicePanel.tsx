import { Box, Flex } from "@chakra-ui/react";
import type { CalendarWindow, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatDay, formatWallTime } from "@/ui/times";
import type { Filters } from "../filters";
import { useAdvice, useMoves } from "../queries";

type Advice = Schemas["AdviceOut"];
const CALLED: Record<string, string> = {
  gap: "Gap", close: "Too close", same_media: "The same media again", near_text: "Nearly the same text", pace: "Too many in a day",
}; // biome-ignore format: one table

/** What could be better about spacing, each with why and a proposed time. Advice, never a wall. */
export function AdvicePanel({
  window,
  first,
  days,
  narrow,
}: {
  window: CalendarWindow;
  first: string | undefined;
  days: number;
  narrow: Filters;
}) {
  const { brand, may } = useBrandContext();
  const found = useAdvice(brand.slug, first, days, narrow);
  const moves = useMoves(brand.slug);
  if (found.isError && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const advice = found.data.pages.flatMap((page) => page.advice);
  const { lanes, checked } = found.data.pages.at(-1) as Schemas["AdvicePage"];
  const take = (one: Advice) =>
    one.subject !== null &&
    one.revision !== null &&
    moves.mutate({
      moves: [{ id: one.subject, revision: one.revision, wall_time: one.proposed, profile: null, snap: false }],
      whole: false,
      words: "Moved.",
    });
  return (
    <>
      {!advice.length && (
        <Box color="faded">Nothing is too close, too far apart or too soon again{found.hasNextPage && " so far"}.</Box>
      )}
      <Box as="ul" listStyleType="none">
        {advice.map((one) => (
          <Box
            as="li"
            key={`${one.kind}${one.profile}${one.first ?? ""}${one.deliveries.join()}`}
            borderTopWidth="1px"
            borderColor="rule"
            py="10px"
          >
            <b>
              {CALLED[one.kind]}: {window.lanes.find((l) => l.profile === one.profile)?.handle ?? "a profile"}
            </b>
            {one.headline && <Box>{one.headline}</Box>}
            <Box color="faded">
              {one.summary} {one.first && one.last && `${formatDay(one.first)} – ${formatDay(one.last)}.`}
            </Box>
            {one.proposed && (
              <Flex gap="8px" align="center" mt="4px" flexWrap="wrap">
                <Box>Free: {formatWallTime(one.proposed, true)}</Box>
                {one.subject !== null && may("publish") && (
                  <Button minH="26px" onClick={() => take(one)}>
                    Move it there
                  </Button>
                )}
              </Flex>
            )}
          </Box>
        ))}
      </Box>
      {found.hasNextPage && (
        <Flex gap="10px" align="center" py="10px" borderTopWidth="1px" borderColor="rule">
          <Button disabled={found.isFetchingNextPage} onClick={() => found.fetchNextPage()}>
            Look at the next profiles
          </Button>
          <Box color="faded" role="status">
            {checked} of {lanes} looked at
          </Box>
          {found.isFetchNextPageError && (
            <Box role="alert" color="pimenton">
              {found.error?.message}
            </Box>
          )}
        </Flex>
      )}
    </>
  );
}
