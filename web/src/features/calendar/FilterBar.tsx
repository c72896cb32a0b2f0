import { Box, chakra, Flex } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { memo, useEffect, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { usePeople } from "@/features/people/queries";
import { NetworkMark } from "@/features/profiles/NetworkMark";
import { useNetworks, useProfiles, useSets } from "@/features/profiles/queries";
import { useProfileChoice } from "@/features/profiles/useProfileChoice";
import { Button } from "@/ui/Button";
import { ChoiceMenu } from "@/ui/ChoiceMenu";
import type { Choice } from "@/ui/choices";
import { StateShape, stateWords } from "@/ui/StateShape";
import type { Filters } from "./filters";
import { isFiltered, NO_FILTERS, toggleFilter } from "./filters";
import { InkMark } from "./Labels";
import { useFirstCards } from "./pieces/usePieces";
import { useCampaigns, useLabels } from "./queries";
import { SavedViews } from "./SavedViews";

const STATES = [
  "planned", "held", "waiting_for_hand", "sending", "published", "in_trouble", "missed", "called_off", "taken_down",
]; // biome-ignore format: one list
type Part = { name: keyof Filters; words: string; choices: Choice[] };

/** What every brand has one of: with one alone there is nothing to choose. */
const ALWAYS = new Set<keyof Filters>(["profiles", "networks", "people"]);

type BarProps = { search: Filters; change: (part: Filters) => void };

/** One filter for every view: in the address, always in sight, cleared at one press, kept under a name when wished. */
export const FilterBar = memo(function FilterBar({ search, change }: BarProps) {
  const hasFirstCards = useFirstCards();
  const { brand } = useBrandContext();
  const place = useSearch({ from: "/$brand/calendar" });
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const networks = useNetworks();
  const asChoice = useProfileChoice();
  const profiles = useProfiles(brand.slug, hasFirstCards).data ?? [];
  const sets = useSets(brand.slug).data ?? [];
  const labels = useLabels(brand.slug).data ?? [];
  const campaigns = useCampaigns(brand.slug, hasFirstCards).data ?? [];
  const people = usePeople(brand.slug, hasFirstCards).data?.members ?? [];
  const used = [...new Set(profiles.map((p) => p.network))];
  const parts: Part[] = [
    { name: "sets", words: "Set", choices: sets.map((s) => ({ value: String(s.id), words: s.name })) },
    {
      name: "profiles",
      words: "Profile",
      choices: profiles.map(asChoice),
    },
    {
      name: "networks",
      words: "Network",
      choices: used.map((n) => ({ value: n, words: networks.get(n)?.name ?? n, mark: <NetworkMark network={n} /> })),
    },
    {
      name: "labels",
      words: "Label",
      choices: labels.map((l) => ({ value: String(l.id), words: l.name, mark: <InkMark ink={l.ink} /> })),
    },
    {
      name: "campaigns",
      words: "Campaign",
      choices: campaigns.map((c) => ({ value: String(c.id), words: c.name, mark: <InkMark ink={c.ink} /> })),
    },
    {
      name: "states",
      words: "State",
      choices: STATES.map((s) => ({ value: s, words: stateWords(s), mark: <StateShape state={s} size={12} /> })),
    },
    { name: "people", words: "Person", choices: people.map((p) => ({ value: String(p.user), words: p.name })) },
  ];
  return (
    <Flex
      role="search"
      aria-label="Filter"
      align="center"
      gap="6px"
      flexWrap="wrap"
      px={{ base: "12px", md: "24px" }}
      pb="8px"
    >
      <Words value={search.words ?? ""} change={(words) => change({ words: words || undefined })} />
      {parts
        .filter((part) => part.choices.length > (ALWAYS.has(part.name) ? 1 : 0) || search[part.name])
        .map((part) => (
          <PartMenu key={part.name} part={part} listed={search[part.name]} change={change} />
        ))}
      {isFiltered(search) && (
        <Button kind="link" onClick={() => change(NO_FILTERS)}>
          Clear the filter
        </Button>
      )}
      <Box flex="1" />
      {!place.view && sets.length > 0 && (
        <Button
          kind="quiet"
          minH="28px"
          fontSize="13px"
          aria-pressed={place.by === "set"}
          onClick={() => navigate({ search: (s) => ({ ...s, by: s.by ? undefined : "set" }) })}
        >
          {place.by === "set" ? "Lanes by set" : "Lanes by network"}
        </Button>
      )}
      <SavedViews />
    </Flex>
  );
});

function PartMenu({
  part,
  listed,
  change,
}: {
  part: Part;
  listed: string | undefined;
  change: (part: Filters) => void;
}) {
  const on = (listed ?? "").split(",").filter(Boolean);
  const names = part.choices.filter((c) => on.includes(c.value)).map((c) => c.words);
  const values = names.slice(0, 2).join(", ") + (names.length > 2 ? ` +${names.length - 2}` : "");
  const toggle = (value: string) => change({ [part.name]: toggleFilter(listed, value) });
  const trigger = (
    <Button kind="quiet" color={on.length ? "ink" : undefined} minH="28px" fontSize="13px" overflow="hidden">
      {part.words}
      {on.length > 0 && (
        <>
          : <b>{values || "unknown"}</b>
        </>
      )}
    </Button>
  );
  return (
    <Flex
      align="center"
      borderWidth={on.length ? "2px" : "1px"}
      borderColor={on.length ? "ink" : "rule"}
      borderRadius="3px"
      bg="card"
      maxW="320px"
    >
      <ChoiceMenu label={part.words} trigger={trigger} choices={part.choices} chosen={on} toggle={toggle} />
      {on.length > 0 && (
        <Button
          kind="quiet"
          minH="28px"
          aria-label={`Clear ${part.words.toLowerCase()}`}
          onClick={() => change({ [part.name]: undefined })}
        >
          ✕
        </Button>
      )}
    </Flex>
  );
}

const PAUSE_MS = 250;

/** Words looked for in title, text and card; taken into the address after a pause. */
function Words({ value, change }: { value: string; change: (words: string) => void }) {
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  useEffect(() => {
    if (typed === value) return;
    const timer = setTimeout(() => change(typed), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [typed, value, change]);
  return (
    <chakra.input
      type="search"
      aria-label="Words in posts"
      placeholder="Words in posts"
      value={typed}
      maxLength={100}
      onChange={(e) => setTyped(e.currentTarget.value)}
      bg="card"
      borderWidth={value ? "2px" : "1px"}
      borderColor={value ? "ink" : "rule"}
      borderRadius="3px"
      minH="30px"
      px="10px"
      w="170px"
      fontSize="13px"
    />
  );
}
