import { Box, Flex } from "@chakra-ui/react";
import { useInfiniteQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { peopleQueries } from "@/data/people";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Input } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { formatInstant } from "@/ui/times";

const WHAT = [
  ["", "everything"],
  ["written", "written and kept"],
  ["planned", "planned and moved"],
  ["signed", "signed off and said"],
  ["sent", "sent"],
  ["failed", "failed, held or missed"],
] as const;
export type HistorySearch = {
  who?: number;
  what?: "written" | "planned" | "signed" | "sent" | "failed";
  words?: string;
  first?: string;
  last?: string;
};

/** Who did what when in a brand: narrowed by person, kind, words and days; taken out as a table. */
export function HistoryPage() {
  const { brand, me } = useBrandContext();
  const navigate = useNavigate({ from: "/$brand/history" });
  const search = useSearch({ from: "/$brand/history" });
  const path = { brand: brand.slug };
  const found = useInfiniteQuery(
    peopleQueries.history(brand.slug, { ...search, what: search.what ?? "", words: search.words ?? "" }),
  );
  const set = (more: HistorySearch) => navigate({ search: (s) => ({ ...s, ...more }), replace: true });
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const entries = found.data.pages.flatMap((page) => page.events);
  const people = found.data.pages[0]?.people ?? [];
  const narrowed = Object.values(search).some((value) => value !== undefined);
  const query = new URLSearchParams(
    Object.entries(search).flatMap(([key, value]) => (value === undefined ? [] : [[key, String(value)]])),
  );
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" w="100%" maxW="980px">
      <Flex align="baseline" gap="16px" mb="12px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px" flex="1">
          History of {brand.name}
        </Box>
        <Button asChild>
          <a href={`/api/brands/${brand.slug}/history.csv?${query}`} download>
            Take it out as CSV
          </a>
        </Button>
      </Flex>
      <Flex gap="10px" mb="14px" flexWrap="wrap" align="center" role="search" aria-label="Narrow the history">
        <Picker
          aria-label="By whom"
          w="auto"
          value={search.who ?? ""}
          onChange={(e) => {
            const who = e.currentTarget.value;
            void set({ who: who === "" ? undefined : Number(who) });
          }}
        >
          <option value="">by anyone</option>
          {people.map((p) => (
            <option key={p.id} value={p.id}>
              {p.id === 0 ? "Menudo, and clients by link" : p.name}
            </option>
          ))}
        </Picker>
        <Picker
          aria-label="What"
          w="auto"
          value={search.what ?? ""}
          onChange={(e) => {
            const what = WHAT.find(([key]) => key === e.currentTarget.value)?.[0];
            void set({ what: what || undefined });
          }}
        >
          {WHAT.map(([key, words]) => (
            <option key={key} value={key}>
              {words}
            </option>
          ))}
        </Picker>
        <Input
          w="150px"
          type="date"
          aria-label="From the day"
          value={search.first ?? ""}
          onChange={(e) => void set({ first: e.currentTarget.value || undefined })}
        />
        <Input
          w="150px"
          type="date"
          aria-label="To the day"
          value={search.last ?? ""}
          onChange={(e) => void set({ last: e.currentTarget.value || undefined })}
        />
        <Input
          w="200px"
          aria-label="In these words"
          placeholder="words"
          defaultValue={search.words ?? ""}
          maxLength={200}
          onChange={(e) => void set({ words: e.currentTarget.value || undefined })}
        />
        {narrowed && (
          <Button kind="link" onClick={() => void navigate({ search: {} })}>
            Everything again
          </Button>
        )}
      </Flex>
      {entries.length === 0 && (
        <EmptyState
          title={narrowed ? "Nothing of that" : "Nothing has happened yet"}
          words="What people and Menudo do in this brand is kept here: who, what and when."
        />
      )}
      <Box as="ol" listStyleType="none" m="0" p="0">
        {entries.map((entry) => (
          <Flex
            as="li"
            key={entry.id}
            gap="14px"
            py="7px"
            borderTopWidth="1px"
            borderColor="rule"
            align="baseline"
            data-testid="history-entry"
          >
            <Box w="150px" flex="none" color="faded" fontVariantNumeric="tabular-nums">
              {formatInstant(entry.occurred_at, brand.zone, me.clock24)}
            </Box>
            <Box flex="1" minW="0" overflowWrap="anywhere" textDecoration={entry.undone ? "line-through" : undefined}>
              <b>{entry.actor}</b>{" "}
              {entry.kind === "post" && entry.object > 0 ? (
                <Link
                  to="/$brand/bench/$post"
                  params={{ brand: brand.slug, post: String(entry.object) }}
                  search={{}}
                  style={{ textDecoration: "underline" }}
                >
                  {entry.summary}
                </Link>
              ) : entry.kind === "delivery" && entry.object > 0 ? (
                <Link
                  to="/$brand/calendar"
                  params={path}
                  search={{ open: entry.object }}
                  style={{ textDecoration: "underline" }}
                >
                  {entry.summary}
                </Link>
              ) : (
                entry.summary
              )}
            </Box>
          </Flex>
        ))}
      </Box>
      {found.hasNextPage && (
        <Button mt="12px" disabled={found.isFetchingNextPage} onClick={() => void found.fetchNextPage()}>
          Older
        </Button>
      )}
    </Box>
  );
}
