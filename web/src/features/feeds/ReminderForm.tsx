import { Box, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { saveReminder } from "@/data/feeds";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { formatWeekday, formatZone } from "@/ui/times";
import { useFeedAction } from "./queries";

type Props = { reminder: Schemas["ReminderIO"] | null | undefined; close: () => void };

/** On which weekdays one wants a few fresh articles. */
export function ReminderForm({ reminder, close }: Props) {
  const { brand } = useBrandContext();
  const act = useFeedAction(brand.slug);
  const [weekdays, setWeekdays] = useState(reminder?.weekdays ?? [0, 3]);
  const [at, setAt] = useState(reminder?.at?.slice(0, 5) ?? "09:00");
  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { weekdays, at };
    const done = await act(
      () => saveReminder(brand.slug, body),
      weekdays.length ? "Kept: a few fresh ones are told on those days." : "You aren’t reminded any more.",
    );
    if (done) close();
  }
  return (
    <SidePanel title="A few fresh ones" open close={close}>
      <Box color="faded" mb="10px">
        A notice with three fresh articles, on the days you choose. It is yours alone; how it reaches you is set with
        your other notices.
      </Box>
      <form onSubmit={send}>
        <Flex gap="2px 14px" flexWrap="wrap" mb="10px" role="group" aria-label="Weekdays">
          {[0, 1, 2, 3, 4, 5, 6].map((day) => (
            <Tick
              key={day}
              checked={weekdays.includes(day)}
              onChange={(e) => setWeekdays(e.target.checked ? [...weekdays, day] : weekdays.filter((d) => d !== day))}
            >
              {formatWeekday(day)}
            </Tick>
          ))}
        </Flex>
        <Field
          label={`At (${formatZone(brand.zone)})`}
          type="time"
          required
          value={at}
          onChange={(e) => setAt(e.currentTarget.value)}
        />
        <Button kind="main" type="submit">
          Keep
        </Button>
      </form>
    </SidePanel>
  );
}
