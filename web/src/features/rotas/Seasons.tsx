import { Box, Flex } from "@chakra-ui/react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";

type Season = Schemas["SeasonIO"];
type Props = { seasons: Season[]; set: (seasons: Season[]) => void; at: (pointer: string) => string | undefined };

const two = (n: number) => String(n).padStart(2, "0");
const shown = (day: number[]) => `${two(day[0] ?? 1)}-${two(day[1] ?? 1)}`;
/** A month and a day, as one types them: 11-01 is the first of November. */
function read(text: string): [number, number] | null {
  const found = text.match(/^(\d{1,2})-(\d{1,2})$/);
  return found ? [Number(found[1]), Number(found[2])] : null;
}

/** When of the year: from one day to another, both included; over New Year where the last comes first. */
export function Seasons({ seasons, set, at }: Props) {
  const change = (n: number, part: Partial<Season>) => set(seasons.map((s, i) => (i === n ? { ...s, ...part } : s)));
  return (
    <Box as="fieldset">
      <Box as="legend" fontWeight="600" fontSize="13px">
        Season, month and day (none: the whole year)
      </Box>
      {seasons.map((season, n) => {
        const wrong = at(`/seasons/${n}/first`) ?? at(`/seasons/${n}/last`);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a season has nothing else to be known by
          <Box key={n} mb="4px">
            <Flex gap="8px" align="center">
              {(["first", "last"] as const).map((end) => (
                <Input
                  key={end}
                  aria-label={`Season ${n + 1}, ${end} day`}
                  w="80px"
                  defaultValue={shown(season[end])}
                  placeholder="11-01"
                  onChange={(e) => {
                    const day = read(e.currentTarget.value);
                    if (day) change(n, { [end]: day });
                  }}
                />
              ))}
              <Button
                kind="quiet"
                aria-label={`Take season ${n + 1} out`}
                onClick={() => set(seasons.filter((_, i) => i !== n))}
              >
                ✕
              </Button>
            </Flex>
            {wrong && (
              <Box role="alert" color="pimenton" fontSize="13px">
                {wrong}
              </Box>
            )}
          </Box>
        );
      })}
      <Button kind="link" onClick={() => set([...seasons, { first: [11, 1], last: [2, 28] }])}>
        Add a season
      </Button>
    </Box>
  );
}
