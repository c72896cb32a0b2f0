import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { saveRotaSlots } from "@/data/rotas";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";
import { formatClock, formatWeekday } from "@/ui/times";
import { type RotaPage, useRotaAction } from "./queries";

const WEEK = [0, 1, 2, 3, 4, 5, 6];

/** When of the week it has slots; more can be kept for it on all its profiles at once. */
export function WeeklySlots({ page }: { page: RotaPage }) {
  const { brand, me, may } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const [adding, setAdding] = useState(false);
  const [days, setDays] = useState<number[]>([]);
  const [at, setAt] = useState("09:00");
  const keep = (weekdays: number[], at: string, keep: boolean, words: string) =>
    act(() => saveRotaSlots(brand.slug, page.rota.id, { weekdays, at, keep }), words);
  async function send(event: FormEvent) {
    event.preventDefault();
    if (await keep(days, at, true, "The slots are kept for it.")) {
      setAdding(false);
      setDays([]);
    }
  }
  const times = Map.groupBy(page.weekly, (slot) => slot.at.slice(0, 5));
  return (
    <Flex gap="10px" align="center" mb="12px" flexWrap="wrap">
      <b>Slots</b>
      {page.weekly.length === 0 && <Box color="faded">none</Box>}
      {[...times].map(([time, slots]) => (
        <Flex key={time} gap="4px" align="center" borderWidth="1px" borderColor="rule" px="8px" borderRadius="3px">
          {formatClock(time, me.clock24)}
          <Box color="faded">
            {slots.length === 7 ? "every day" : slots.map((slot) => formatWeekday(slot.weekday)).join(" ")}
          </Box>
          {may("manage_profiles") && (
            <Button
              kind="quiet"
              minW="24px"
              aria-label={`Give the slots at ${time} back`}
              onClick={() =>
                void keep(
                  slots.map((slot) => slot.weekday),
                  time,
                  false,
                  `The slots at ${time} are taken out.`,
                )
              }
            >
              ✕
            </Button>
          )}
        </Flex>
      ))}
      {may("manage_profiles") && !adding && (
        <Button kind="link" onClick={() => setAdding(true)}>
          Keep slots for it
        </Button>
      )}
      {adding && (
        <chakra.form onSubmit={send} display="flex" gap="6px" alignItems="center" flexWrap="wrap">
          {WEEK.map((day) => (
            <Button
              key={day}
              aria-pressed={days.includes(day)}
              minW="44px"
              px="6px"
              borderColor={days.includes(day) ? "ink" : "rule"}
              bg={days.includes(day) ? "wash" : "card"}
              onClick={() => setDays(days.includes(day) ? days.filter((d) => d !== day) : [...days, day].sort())}
            >
              {formatWeekday(day)}
            </Button>
          ))}
          <Input
            type="time"
            aria-label="Time of the slots"
            w="110px"
            value={at}
            onChange={(e) => setAt(e.currentTarget.value)}
          />
          <Button type="submit" kind="main" disabled={!days.length || !at}>
            Keep these
          </Button>
          <Button kind="quiet" onClick={() => setAdding(false)}>
            Not now
          </Button>
        </chakra.form>
      )}
    </Flex>
  );
}
