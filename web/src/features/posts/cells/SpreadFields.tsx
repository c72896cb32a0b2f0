import { Box, chakra, Flex } from "@chakra-ui/react";
import type { Profile, Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import type { Spread, When } from "../usePlan";

const Small = chakra("input", {
  base: {
    bg: "card",
    borderWidth: "1px",
    borderColor: "rule",
    borderRadius: "3px",
    w: "60px",
    minH: "26px",
    px: "6px",
  },
});
const MOST = 1440;

/** “, 20 min after the first, 4 min off”: how a time came to be. */
export function formatSpread(time: Schemas["TimeOut"]): string {
  const parts = [];
  if (time.delay) parts.push(`${time.delay} min after the first`);
  if (time.jitter) parts.push(`${time.jitter > 0 ? "+" : "−"}${Math.abs(time.jitter)} min`);
  return parts.length ? ` (${parts.join(", ")})` : "";
}

type Props = { when: When; setWhen: (when: When) => void; profiles: Profile[] };

/** A delay between the profiles, and how far each time may vary: drawn once, shown, and kept as shown. */
export function SpreadFields({ when, setWhen, profiles }: Props) {
  const { spread } = when;
  const set = (part: Partial<Spread>) => {
    const next = { ...spread, ...part };
    // Drawn anew when something is asked for; what was drawn stays while it is.
    const seed = next.seed || Math.floor(Math.random() * 2 ** 31);
    setWhen({ ...when, spread: { ...next, seed, order: next.order.length ? next.order : profiles.map((p) => p.id) } });
  };
  const number = (text: string, most: number) => Math.max(0, Math.min(most, Math.floor(Number(text)) || 0));
  const order = [...profiles].sort((a, b) => place(spread.order, a.id) - place(spread.order, b.id));
  function up(id: number) {
    const ids = order.map((p) => p.id);
    const at = ids.indexOf(id);
    ids.splice(at - 1, 0, ...ids.splice(at, 1));
    set({ order: ids });
  }
  const on = spread.most > 0 || spread.jitter > 0;
  return (
    <chakra.details mt="8px" fontSize="13px">
      <chakra.summary cursor="pointer" minH="24px" fontWeight={on ? "700" : "500"}>
        Spread{on ? ": on" : ""}
      </chakra.summary>
      <Flex align="center" gap="6px" flexWrap="wrap" my="4px">
        <Small
          type="number"
          aria-label="Least minutes between profiles"
          min={0}
          max={MOST}
          value={spread.least}
          onChange={(e) => {
            const least = number(e.currentTarget.value, MOST);
            set({ least, most: Math.max(least, spread.most) });
          }}
        />
        to
        <Small
          type="number"
          aria-label="Most minutes between profiles"
          min={0}
          max={MOST}
          value={spread.most}
          onChange={(e) => {
            const most = number(e.currentTarget.value, MOST);
            set({ most, least: Math.min(most, spread.least) });
          }}
        />
        min between profiles
      </Flex>
      <Flex align="center" gap="6px" my="4px">
        vary by up to
        <Small
          type="number"
          aria-label="Minutes each time may vary by"
          min={0}
          max={180}
          value={spread.jitter}
          onChange={(e) => set({ jitter: number(e.currentTarget.value, 180) })}
        />
        min
      </Flex>
      {spread.most > 0 && order.length > 1 && (
        <Box as="ol" listStyleType="none" maxH="140px" overflowY="auto">
          {order.map((p, n) => (
            <Flex as="li" key={p.id} align="center" gap="6px" minH="26px">
              <Box as="span" color="faded" w="16px">
                {n + 1}
              </Box>
              <Box flex="1" overflow="hidden" textOverflow="ellipsis" whiteSpace="nowrap">
                {p.display_name || p.handle}
              </Box>
              {n > 0 && (
                <Button kind="quiet" minH="24px" aria-label={`${p.handle} earlier`} onClick={() => up(p.id)}>
                  ▲
                </Button>
              )}
            </Flex>
          ))}
        </Box>
      )}
      {on && (
        <Button kind="link" onClick={() => set({ seed: Math.floor(Math.random() * 2 ** 31) })}>
          Draw anew
        </Button>
      )}
    </chakra.details>
  );
}

const place = (order: number[], id: number) => {
  const at = order.indexOf(id);
  return at < 0 ? order.length : at;
};
