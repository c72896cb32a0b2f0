import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Profile, Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { setTimetable } from "@/data/profiles";
import { InkMark } from "@/features/calendar/Labels";
import { useLabels } from "@/features/calendar/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { formatClock, formatWeekday, formatZone } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { CopySlots } from "./CopySlots";
import { PostingTimes } from "./PostingTimes";
import { useTimetable } from "./queries";
import { SpacingForm } from "./SpacingForm";

type Slot = Schemas["SlotOut"];
type Props = { profile: Profile; close: () => void };
const WEEK = [0, 1, 2, 3, 4, 5, 6];

/** A profile's weekly slots. */
export function TimetablePanel({ profile, close }: Props) {
  const { brand } = useBrandContext();
  const kept = useTimetable(brand.slug, profile.id);
  return (
    <SidePanel title={`Timetable of ${profile.handle}`} open close={close}>
      {kept.isPending && <Loading />}
      {kept.isError && !kept.data && <QueryFailed error={kept.error} again={() => kept.refetch()} />}
      {kept.data && <Week key={profile.id} profile={profile} kept={kept.data} />}
    </SidePanel>
  );
}

function Week({ profile, kept }: { profile: Profile; kept: Schemas["TimetableOut"] }) {
  const { brand, me, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const [slots, setSlots] = useState<Slot[]>(kept.slots);
  const [wrong, setWrong] = useState("");
  const labels = useLabels(brand.slug).data ?? [];

  async function keep(next: Slot[]) {
    setWrong("");
    try {
      setSlots(await setTimetable(brand.slug, profile.id, { slots: next }));
      await changed("profile");
      toast(`The timetable of ${profile.handle} is kept.`);
    } catch (error) {
      setWrong((error as Error).message);
    }
  }
  function add(event: FormEvent<HTMLFormElement>) {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const label = Number(form.get("label")) || null;
    void keep([...slots, { weekday: Number(form.get("weekday")), at: String(form.get("at")), label }]);
  }
  return (
    <>
      <Box color="faded" mb="12px">
        “Next free slot” takes these, in {formatZone(profile.zone)}.
      </Box>
      {WEEK.map((weekday) => (
        <Flex key={weekday} gap="10px" py="6px" borderBottomWidth="1px" borderColor="rule" align="center" minH="44px">
          <Box w="44px" flex="none" fontWeight="600">
            {formatWeekday(weekday)}
          </Box>
          <Flex gap="8px" flexWrap="wrap">
            {slots
              .filter((slot) => slot.weekday === weekday)
              .map((slot) => (
                <Flex
                  key={slot.at}
                  borderWidth="1px"
                  borderColor="rule"
                  borderRadius="3px"
                  pl="8px"
                  align="center"
                  fontVariantNumeric="tabular-nums"
                >
                  {formatClock(slot.at.slice(0, 5), me.clock24)}
                  {slot.label !== null && (
                    <Flex as="span" align="center" gap="4px" ml="6px" fontSize="12px">
                      <InkMark ink={labels.find((l) => l.id === slot.label)?.ink ?? "smoke"} />
                      {labels.find((l) => l.id === slot.label)?.name}
                    </Flex>
                  )}
                  {may("manage_profiles") && (
                    <Button
                      kind="quiet"
                      minH="26px"
                      aria-label={`Take out ${formatWeekday(weekday)} ${slot.at.slice(0, 5)}`}
                      onClick={() => keep(slots.filter((s) => s !== slot))}
                    >
                      ✕
                    </Button>
                  )}
                </Flex>
              ))}
          </Flex>
        </Flex>
      ))}
      {may("manage_profiles") && (
        <chakra.form onSubmit={add} mt="16px">
          <Flex gap="8px" align="flex-end">
            <Box mb="14px">
              <chakra.label htmlFor="slot-day" display="block" fontWeight="600" fontSize="13px" mb="4px">
                Day
              </chakra.label>
              <chakra.select
                id="slot-day"
                name="weekday"
                bg="card"
                borderWidth="1px"
                borderColor="faded"
                borderRadius="3px"
                minH="34px"
                px="8px"
              >
                {WEEK.map((weekday) => (
                  <option key={weekday} value={weekday}>
                    {formatWeekday(weekday)}
                  </option>
                ))}
              </chakra.select>
            </Box>
            <Field label="Time" name="at" type="time" required />
            {labels.length > 0 && (
              <Select label="Kept for" name="label">
                <option value="">anything</option>
                {labels.map((l) => (
                  <option key={l.id} value={l.id}>
                    {l.name}
                  </option>
                ))}
              </Select>
            )}
            <Button type="submit" mb="14px">
              Add slot
            </Button>
          </Flex>
        </chakra.form>
      )}
      <PostingTimes profile={profile} take={(slot) => keep([...slots, slot])} />
      {may("manage_profiles") && <CopySlots profile={profile} />}
      <SpacingForm profile={profile} kept={kept.spacing} />
      {wrong && (
        <Box role="alert" color="pimenton">
          {wrong}
        </Box>
      )}
    </>
  );
}
