import { Box, Flex } from "@chakra-ui/react";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useCallback, useMemo, useState } from "react";
import type { CalendarWindow, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useToday } from "@/app/shell/useStrip";
import { useShortcuts } from "@/app/shortcuts";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Kbd } from "@/ui/Kbd";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatZone } from "@/ui/times";
import { BatchPanel } from "./batch/BatchPanel";
import { BoardFrame } from "./board/BoardFrame";
import { DeliveryPanel } from "./DeliveryPanel";
import { FilterBar } from "./FilterBar";
import type { Filters } from "./filters";
import { filtersOf, isFiltered, NO_FILTERS, type View } from "./filters";
import { Lanes } from "./Lanes";
import { ListView } from "./ListView";
import { Month } from "./Month";
import { MoreMenu, Panels } from "./panels/Panels";
import { FirstCardsContext, PiecesContext, useWindowPieces } from "./pieces/usePieces";
import { useCalendar } from "./queries";
import { spanOf, titleOf } from "./span";
import { Tray } from "./Tray";
import { Week } from "./Week";

const VIEWS: [View, string][] = [
  ["lanes", "Lanes"],
  ["month", "Month"],
  ["week", "Week"],
  ["list", "List"],
];
/** By what each view counts more cards than can be read. */
const GATHERED = { lanes: "profile", month: "network", week: "hour", list: "network" } as const;
const NO_GHOSTS: Schemas["BatchRowOut"][] = [];

/** The shared calendar: four views of the same days under one filter, with the tray at its foot. */
export function CalendarPage() {
  const { brand } = useBrandContext();
  const search = useSearch({ from: "/$brand/calendar" });
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const view = search.view ?? "lanes";
  const today = useToday();
  const span = spanOf(view, search.from, today);
  const narrow = useMemo(() => filtersOf(search), [search]);
  const calendar = useCalendar(brand.slug, span.first, span.days, narrow, GATHERED[view]);
  const awaitsCards = view === "lanes" || view === "list";
  const { window, pieces, hasFirstCards } = useWindowPieces(brand.slug, calendar.data, narrow, awaitsCards);
  const [ghosts, setGhosts] = useState(NO_GHOSTS);
  const showGhosts = useCallback(
    (rows: Schemas["BatchRowOut"][]) => setGhosts((now) => (same(now, rows) ? now : rows)),
    [],
  );
  const keys = useMemo(
    () => ({
      t: () => navigate({ search: (s) => ({ ...s, from: undefined }) }),
      "/": () => document.querySelector<HTMLInputElement>('[role="search"] input')?.focus(),
    }),
    [navigate],
  );
  useShortcuts(keys);
  const change = useCallback(
    (part: Filters) => void navigate({ search: (s) => ({ ...s, ...part }), replace: true }),
    [navigate],
  );
  const open = useCallback((id: number) => void navigate({ search: (s) => ({ ...s, open: id }) }), [navigate]);
  const lay = useMemo(() => (search.lay ?? "").split(",").filter(Boolean).map(Number), [search.lay]);

  if (calendar.error && search.sets)
    return (
      <EmptyState title="That set is gone" words="The calendar was narrowed to a profile set that is no longer there.">
        <Button onClick={() => change(NO_FILTERS)}>Clear the filter</Button>
      </EmptyState>
    );
  if (calendar.error && !calendar.data) return <QueryFailed error={calendar.error} again={() => calendar.refetch()} />;
  if (!window?.days.length) return <Loading />;
  const turn = (to: string) => navigate({ search: (s) => ({ ...s, from: to }) });
  const from = window.days[0]?.date ?? "";
  const arrows = span.first ? span : spanOf(view, from, today);
  // While another view's days are still shown, what came for them doesn't fit this one.
  const fits = window.days.length === span.days;
  return (
    <PiecesContext value={pieces}>
      <FirstCardsContext value={hasFirstCards}>
        <Flex align="center" gap="14px" px={{ base: "12px", md: "24px" }} pt="12px" pb="8px" flexWrap="wrap">
          <Box as="h1" fontSize="28px" lineHeight="32px">
            {titleOf(view, window.days, span.month || from.slice(0, 7))}
          </Box>
          <Flex align="center">
            <Button kind="quiet" aria-label={`A ${span.unit} earlier`} onClick={() => turn(arrows.back)}>
              ‹
            </Button>
            <Button kind="quiet" onClick={() => navigate({ search: (s) => ({ ...s, from: undefined }) })}>
              Today <Kbd>t</Kbd>
            </Button>
            <Button kind="quiet" aria-label={`A ${span.unit} later`} onClick={() => turn(arrows.on)}>
              ›
            </Button>
          </Flex>
          <Flex as="nav" aria-label="Views" gap="2px">
            {VIEWS.map(([value, words]) => (
              <Link
                key={value}
                from="/$brand/calendar"
                search={(s) => ({ ...s, view: value === "lanes" ? undefined : value })}
                aria-current={view === value ? "page" : undefined}
              >
                <Box
                  px="8px"
                  py="4px"
                  fontWeight="600"
                  color={view === value ? "ink" : "faded"}
                  borderBottomWidth="2px"
                  borderColor={view === value ? "ink" : "transparent"}
                >
                  {words}
                </Box>
              </Link>
            ))}
          </Flex>
          <Box flex="1" />
          <Box color="faded" fontSize="13px">
            {formatZone(window.zone)}
          </Box>
          <MoreMenu first={from} days={span.days} />
        </Flex>
        <FilterBar search={narrow} change={change} />
        <BoardFrame window={window} show={search.show} open={open} steps={view === "month" ? "weeks" : "quarters"}>
          {lay.length > 0 && (
            <BatchPanel
              posts={lay}
              ghosts={showGhosts}
              close={() => navigate({ search: (s) => ({ ...s, lay: undefined }) })}
            />
          )}
          {fits ? (
            <Shown
              view={view}
              window={window}
              ghosts={ghosts}
              month={span.month}
              narrowed={isFiltered(narrow)}
              clear={() => change(NO_FILTERS)}
              sort={search.sort ?? "time"}
            />
          ) : (
            <Loading />
          )}
          <Box flex="1" minH="16px" />
          <Tray narrow={narrow} />
        </BoardFrame>
        <Panels window={window} first={span.first} days={span.days} />
        <DeliveryPanel id={search.open} close={() => navigate({ search: (s) => ({ ...s, open: undefined }) })} />
      </FirstCardsContext>
    </PiecesContext>
  );
}

const same = (a: Schemas["BatchRowOut"][], b: Schemas["BatchRowOut"][]) =>
  a.length === b.length &&
  a.every((one, n) => one.wall_time === b[n]?.wall_time && one.profile === b[n]?.profile && one.post === b[n]?.post);

type ShownProps = {
  view: View;
  window: CalendarWindow;
  ghosts: Schemas["BatchRowOut"][];
  month: string;
  narrowed: boolean;
  clear: () => void;
  sort: "time" | "profile" | "state";
};

function Shown({ view, window, ghosts, month, narrowed, clear, sort }: ShownProps) {
  const { brand, may } = useBrandContext();
  if (!window.lanes.length && narrowed)
    return (
      <EmptyState title="Nothing is left" words="No profile is left of the calendar under this filter.">
        <Button onClick={clear}>Clear the filter</Button>
      </EmptyState>
    );
  if (!window.lanes.length)
    return (
      <EmptyState
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
      </EmptyState>
    );
  if (view === "month") return <Month window={window} month={month} />;
  if (view === "week") return <Week window={window} />;
  if (view === "list") return <ListView window={window} sort={sort} />;
  return <Lanes window={window} ghosts={ghosts} />;
}
