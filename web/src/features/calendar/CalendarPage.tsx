import { Box, Flex } from "@chakra-ui/react";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useMemo } from "react";
import { useKeys } from "@/app/keys";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Empty } from "@/ui/Empty";
import { Failed } from "@/ui/Failed";
import { Kbd } from "@/ui/Kbd";
import { Loading } from "@/ui/Loading";
import { addDays, dayWords, zoneWords } from "@/ui/times";
import { DeliveryPanel } from "./DeliveryPanel";
import { Lanes } from "./Lanes";
import { useCalendar } from "./queries";
import { SetFilter } from "./SetFilter";
import { Tray } from "./Tray";

const STEP = 7;

/** The shared calendar in lanes: a row for each profile, a column for each of 14 days. */
export function CalendarPage() {
  const { brand, may } = useHere();
  const search = useSearch({ from: "/$brand/calendar" });
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const calendar = useCalendar(brand.slug, search.from, search.sets);
  const first = calendar.data?.days[0]?.date;
  const last = calendar.data?.days.at(-1)?.date;
  const keys = useMemo(() => ({ t: () => navigate({ search: (s) => ({ ...s, from: undefined }) }) }), [navigate]);
  useKeys(keys);

  const turn = (days: number) => first && navigate({ search: (s) => ({ ...s, from: addDays(first, days) }) });
  if (calendar.error && search.sets)
    return (
      <Empty title="That set is gone" words="The calendar was narrowed to a profile set that is no longer there.">
        <Button onClick={() => navigate({ search: (s) => ({ ...s, sets: undefined }) })}>Clear the filter</Button>
      </Empty>
    );
  if (calendar.error && !calendar.data) return <Failed error={calendar.error} again={() => calendar.refetch()} />;
  if (!calendar.data || !first || !last) return <Loading />;
  return (
    <>
      <Flex align="center" gap="14px" px={{ base: "12px", md: "24px" }} pt="14px" pb="10px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px">
          {dayWords(first)} – {dayWords(last)}
        </Box>
        <Flex align="center">
          <Button kind="quiet" aria-label="A week earlier" onClick={() => turn(-STEP)}>
            ‹
          </Button>
          <Button kind="quiet" onClick={() => navigate({ search: (s) => ({ ...s, from: undefined }) })}>
            Today <Kbd>t</Kbd>
          </Button>
          <Button kind="quiet" aria-label="A week later" onClick={() => turn(STEP)}>
            ›
          </Button>
        </Flex>
        <Box flex="1" />
        <SetFilter sets={search.sets} choose={(sets) => navigate({ search: (s) => ({ ...s, sets }) })} />
        <Box color="faded" fontSize="13px">
          {zoneWords(calendar.data.zone)}
        </Box>
      </Flex>
      {calendar.data.lanes.length === 0 && search.sets ? (
        <Empty title="Nothing in this set" words="No profile of the set stands on the calendar just now.">
          <Button onClick={() => navigate({ search: (s) => ({ ...s, sets: undefined }) })}>Clear the filter</Button>
        </Empty>
      ) : calendar.data.lanes.length === 0 ? (
        <Empty
          title="No profiles yet"
          words={`${brand.name} has no profile connected. The calendar shows a row for each, with what goes out when.`}
        >
          {may("manage_profiles") && (
            <Button kind="main" asChild>
              <Link to="/$brand/profiles" params={{ brand: brand.slug }} search={{}}>
                Connect profiles
              </Link>
            </Button>
          )}
        </Empty>
      ) : (
        <Lanes
          window={calendar.data}
          show={search.show}
          open={(id) => navigate({ search: (s) => ({ ...s, open: id }) })}
        />
      )}
      <Box flex="1" minH="24px" />
      <Tray drafts={calendar.data.tray} />
      <DeliveryPanel
        window={calendar.data}
        id={search.open}
        close={() => navigate({ search: (s) => ({ ...s, open: undefined }) })}
      />
    </>
  );
}
