import { Box, chakra, Flex } from "@chakra-ui/react";
import { useBrandContext } from "@/app/brandContext";
import { ProfileTicks } from "@/features/profiles/ProfileTicks";
import { useProfiles } from "@/features/profiles/queries";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { formatWeekday } from "@/ui/times";
import type { Plan } from "./useBatch";

const WEEK = [0, 1, 2, 3, 4, 5, 6];
const NTH: [string, string][] = [
  ["", "the same day of the month"], ["1", "the first"], ["2", "the second"], ["3", "the third"], ["4", "the fourth"], ["-1", "the last"],
]; // biome-ignore format: one table

/** How often a run comes. */
export function IntervalFields({ plan, set }: { plan: Plan; set: (part: Partial<Plan>) => void }) {
  return (
    <>
      <Flex gap="8px">
        <Field
          label="Every"
          type="number"
          min={1}
          max={366}
          value={plan.step}
          onChange={(e) => set({ step: Math.max(1, Number(e.currentTarget.value) || 1) })}
        />
        <Select
          label="Unit"
          value={plan.unit}
          onChange={(e) => set({ unit: e.currentTarget.value as Plan["unit"], nth: null })}
        >
          {["hours", "days", "weeks", "months"].map((unit) => (
            <option key={unit}>{unit}</option>
          ))}
        </Select>
      </Flex>
      {plan.unit === "months" && (
        <Select
          label="On"
          value={plan.nth ?? ""}
          onChange={(e) => set({ nth: e.currentTarget.value ? Number(e.currentTarget.value) : null })}
        >
          {NTH.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </Select>
      )}
      {(plan.unit !== "months" || plan.nth !== null) && (
        <Flex role="group" aria-label="Weekdays" gap="2px" mb="12px">
          {WEEK.map((day) => (
            <chakra.button
              key={day}
              type="button"
              aria-pressed={plan.weekdays.includes(day)}
              onClick={() =>
                set({
                  weekdays: plan.weekdays.includes(day)
                    ? plan.weekdays.filter((d) => d !== day)
                    : [...plan.weekdays, day],
                })
              }
              borderWidth="1px"
              borderColor={plan.weekdays.includes(day) ? "ink" : "rule"}
              bg={plan.weekdays.includes(day) ? "ink" : "card"}
              color={plan.weekdays.includes(day) ? "paper" : "ink"}
              minW="38px"
              minH="28px"
              fontSize="12px"
              cursor="pointer"
            >
              {formatWeekday(day)}
            </chakra.button>
          ))}
        </Flex>
      )}
    </>
  );
}

/** For whom: each draft's own profiles, or these. */
export function ProfileFields({
  plan,
  set,
  error,
}: {
  plan: Plan;
  set: (part: Partial<Plan>) => void;
  error?: string;
}) {
  const { brand } = useBrandContext();
  const profiles = (useProfiles(brand.slug).data ?? []).filter((p) => p.usable);
  return (
    <chakra.details mb="6px" open={error ? true : undefined}>
      <chakra.summary cursor="pointer" minH="24px" fontWeight="600" fontSize="13px">
        {plan.profiles.length ? `For ${plan.profiles.length} profiles` : "For each draft's own profiles"}
      </chakra.summary>
      <Box maxH="150px" overflowY="auto">
        <ProfileTicks profiles={profiles} chosen={plan.profiles} change={(chosen) => set({ profiles: chosen })} />
      </Box>
      {error && (
        <Box role="alert" color="pimenton" fontSize="12px">
          {error}
        </Box>
      )}
    </chakra.details>
  );
}
