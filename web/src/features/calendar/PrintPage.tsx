import { Box, Flex } from "@chakra-ui/react";
import { useSearch } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { useNetworks } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { stateWords } from "@/ui/StateShape";
import { formatClock, formatDay, formatWeekday, formatZone } from "@/ui/times";
import { filtersOf } from "./filters";
import { useLabels, usePlanned, useWholeCalendar } from "./queries";
import "./print.css";

/** The plan on paper, or as a PDF by the browser's own printing: for a client, by day, with pictures and words. */
export function PrintPage() {
  const { brand, me } = useBrandContext();
  const search = useSearch({ from: "/$brand/plan" });
  const networks = useNetworks();
  const labels = useLabels(brand.slug).data ?? [];
  const days_ = Math.min(search.days ?? 14, 62);
  const found = useWholeCalendar(brand.slug, search.from, days_, filtersOf(search));
  const texts = usePlanned(brand.slug, search.from, days_, filtersOf(search));
  const values = texts.data?.pages.flatMap((page) => page.items) ?? [];
  const inFull = new Map(values.map((one) => [one.delivery, one]));
  const whole = texts.data !== undefined && !texts.hasNextPage;
  const { window: plan, tickets } = found;
  if (found.error && !(plan && tickets)) return <QueryFailed error={found.error} again={() => found.again()} />;
  if (!plan || !tickets) return <Loading />;
  const { days, lanes, bands, zone } = plan;
  const byDay = Map.groupBy(tickets, (t) => t.day);
  const lane = new Map(lanes.map((l) => [l.profile, l]));
  const first = days[0]?.date ?? "";
  const last = days.at(-1)?.date ?? "";
  return (
    <Box className="plan" px={{ base: "12px", md: "24px" }} py="16px" w="100%" maxW="980px">
      <Flex justify="space-between" align="baseline" gap="16px" flexWrap="wrap" mb="12px">
        <Box as="h1" fontSize="28px" lineHeight="32px">
          {brand.name}: plan for {formatDay(first)}
          {last !== first && ` – ${formatDay(last)}`}
        </Box>
        <Flex className="no-print" gap="12px" align="center">
          {!whole && (
            <Box color="faded" role="status">
              {texts.isError
                ? "The full wording could not be read."
                : `${values.length} of ${tickets.length} in full so far`}
            </Box>
          )}
          {texts.isError && <Button onClick={() => texts.refetch()}>Try again</Button>}
          <Button kind="main" disabled={!whole} onClick={() => window.print()}>
            Print, or save as PDF
          </Button>
        </Flex>
      </Flex>
      <Box color="faded" mb="12px">
        {tickets.length} posts on {lanes.length} profiles, all times in {formatZone(zone)}.
        {bands.campaigns.length > 0 && ` Campaigns: ${bands.campaigns.map((c) => c.name).join(", ")}.`}
      </Box>
      {days.map((day, n) => {
        const mine = byDay.get(n) ?? [];
        const worth = bands.almanac.filter((d) => d.day === n && d.kind !== "observance");
        if (!mine.length && !worth.length) return null;
        return (
          <Box
            as="section"
            key={day.date}
            className="plan-day"
            borderTopWidth="2px"
            borderColor="ink"
            pt="6px"
            mb="14px"
          >
            <Box as="h2" fontSize="17px">
              {formatWeekday(day.weekday)} {formatDay(day.date)}
              {worth.length > 0 && (
                <Box as="span" color="faded" fontSize="13px">
                  {" "}
                  {worth.map((d) => d.name).join(", ")}
                </Box>
              )}
            </Box>
            {mine.map((t) => {
              const at = lane.get(t.profile);
              return (
                <Flex
                  key={t.id}
                  gap="12px"
                  py="5px"
                  borderTopWidth="1px"
                  borderColor="rule"
                  align="flex-start"
                  flexWrap={{ base: "wrap", md: "nowrap" }}
                  className="plan-row"
                >
                  <Box w="64px" flex="none" fontWeight="600" fontVariantNumeric="tabular-nums">
                    {formatClock(t.time, me.clock24)}
                  </Box>
                  <Box w={{ base: "auto", md: "190px" }} flex={{ base: "1", md: "none" }}>
                    {at?.display_name || at?.handle}
                    <Box color="faded" fontSize="12px">
                      {networks.get(at?.network ?? "")?.name} · {stateWords(t.state)}
                    </Box>
                  </Box>
                  {t.thumb && (
                    <Box asChild h="54px" w="72px" objectFit="cover" flex="none">
                      <img src={`/media/${brand.slug}/${t.thumb}/thumb`} alt="" />
                    </Box>
                  )}
                  <Box flex={{ base: "1 0 100%", md: "1" }} minW="0">
                    <Box whiteSpace="pre-wrap" overflowWrap="anywhere">
                      {inFull.get(t.id)?.text || t.headline || <i>no words yet</i>}
                    </Box>
                    {inFull.get(t.id)?.link && <Box color="anil">{inFull.get(t.id)?.link}</Box>}
                    <Box color="faded" fontSize="12px">
                      {labels
                        .filter((l) => t.labels.includes(l.id))
                        .map((l) => l.name)
                        .join(", ")}
                    </Box>
                  </Box>
                </Flex>
              );
            })}
          </Box>
        );
      })}
      {tickets.length === 0 && <Box color="faded">Nothing is planned for these days.</Box>}
    </Box>
  );
}
