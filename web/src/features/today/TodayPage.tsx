import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { calendarQueries } from "@/data/calendar";
import { useNetworks, useObstacles } from "@/features/profiles/queries";
import { Starters } from "@/features/starters/Starters";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape } from "@/ui/StateShape";
import { formatClock, formatDay, formatInstant, formatWeekday, formatZone } from "@/ui/times";
import { ExhaustedRotas } from "./ExhaustedRotas";
import { Listings } from "./Listings";
import { Part } from "./Part";
import { RelayQuestions } from "./RelayQuestions";

type Item = Schemas["TodayItem"];

/** The morning page: what goes out, what waits for a person, what is in trouble, which connections end. */
export function TodayPage() {
  const { brand, me, may } = useBrandContext();
  const path = { brand: brand.slug };
  const today = useQuery(calendarQueries.today(brand.slug));
  const standing = useObstacles(brand.slug).data;
  if (today.error && !today.data) return <QueryFailed error={today.error} again={() => today.refetch()} />;
  if (!today.data) return <Loading />;
  const { date, going_out, by_hand, trouble, pending_signoffs } = today.data;
  const weekday = (new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7;
  const endings = standing?.expiring ?? [];
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" w="100%" maxW="1320px">
      <Flex align="baseline" gap="12px" mb="14px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px">
          {formatWeekday(weekday)} {formatDay(date)}
        </Box>
        <Box color="faded">{formatZone(brand.zone)}</Box>
      </Flex>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", lg: "1.2fr 1fr" }} gap="32px">
        <Box display="grid" gap="24px" alignContent="start">
          <Part title="Goes out today" empty="Nothing goes out today." count={going_out.length}>
            {going_out.map((item) => (
              <Row key={item.delivery} item={item} clock />
            ))}
          </Part>
          <Starters />
        </Box>
        <Box display="grid" gap="24px" alignContent="start">
          <Part title="In trouble" empty="Nothing is in trouble." count={trouble.length} loud>
            {trouble.map((item) => (
              <Row key={item.delivery} item={item} action="Mend" />
            ))}
            <Box py="7px">
              <Link to="/$brand/trouble" params={path} search={{}} style={{ textDecoration: "underline" }}>
                All of it, by cause
              </Link>
            </Box>
          </Part>
          {by_hand.length > 0 && (
            <Part title="To publish by hand" count={by_hand.length}>
              {by_hand.map((item) => (
                <Row key={item.delivery} item={item} hand action="Publish it" />
              ))}
            </Part>
          )}
          {pending_signoffs.length > 0 && (
            <Part title="Waits for sign-off" count={pending_signoffs.length}>
              {pending_signoffs.map((item) => (
                <Row key={item.delivery} item={item} action="Look at it" />
              ))}
              {may("sign_off") && (
                <Box py="7px">
                  <Link to="/$brand/sign" params={path} search={{}} style={{ textDecoration: "underline" }}>
                    Sign them off, one after another
                  </Link>
                </Box>
              )}
            </Part>
          )}
          <Listings />
          <RelayQuestions />
          <ExhaustedRotas />
          {endings.length > 0 && (
            <Part title="Connections that end" count={endings.length}>
              {endings.map((one) => (
                <Flex
                  key={one.connection}
                  gap="10px"
                  py="7px"
                  borderTopWidth="1px"
                  borderColor="rule"
                  align="flex-start"
                >
                  <StateShape state={one.ended || one.days <= 3 ? "in_trouble" : "held"} />
                  <Box flex="1" minW="0">
                    <b>{one.handles.join(", ")}</b>{" "}
                    {one.ended ? "must be reconnected" : `ends in ${one.days} ${one.days === 1 ? "day" : "days"}`}
                    <Box color="faded" fontSize="12px">
                      {one.ended
                        ? "What is planned waits."
                        : one.expires_at && formatInstant(one.expires_at, brand.zone, me.clock24)}
                    </Box>
                  </Box>
                  <Link to="/$brand/profiles" params={path} search={{}} style={{ textDecoration: "underline" }}>
                    Reconnect
                  </Link>
                </Flex>
              ))}
            </Part>
          )}
        </Box>
      </Box>
    </Box>
  );
}

function Row({ item, clock, hand, action }: { item: Item; clock?: boolean; hand?: boolean; action?: string }) {
  const { brand, me } = useBrandContext();
  const network = useNetworks().get(item.network);
  const [day = "", time = ""] = item.time.split("T");
  const when = `${clock ? "" : `${formatDay(day)}, `}${formatClock(time, me.clock24)}`;
  const words = (
    <Flex gap="10px" py="7px" borderTopWidth="1px" borderColor="rule" align="flex-start" _hover={{ bg: "wash" }}>
      <Box pt="4px">
        <StateShape state={item.state} />
      </Box>
      <Box w={clock ? "56px" : "108px"} flex="none" fontWeight="600" fontVariantNumeric="tabular-nums">
        {when}
      </Box>
      {network && <NetworkTile letters={network.letters} shape={network.shape} size={20} />}
      <Box flex="1" minW="0">
        <Box whiteSpace="nowrap" overflow="hidden" textOverflow="ellipsis">
          {item.headline || <i>no words yet</i>}
        </Box>
        <Box color={item.reason ? "pimenton" : "faded"} fontSize="12px" lineHeight="16px">
          {item.reason || item.handle}
        </Box>
      </Box>
      {action && (
        <Box flex="none" color="anil" textDecoration="underline">
          {action}
        </Box>
      )}
    </Flex>
  );
  if (hand)
    return (
      <Link to="/$brand/by-hand/$delivery" params={{ brand: brand.slug, delivery: String(item.delivery) }}>
        {words}
      </Link>
    );
  return (
    <Link to="/$brand/calendar" params={{ brand: brand.slug }} search={{ open: item.delivery }}>
      {words}
    </Link>
  );
}
