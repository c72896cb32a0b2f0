import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { createRota, updateRota } from "@/data/rotas";
import { Inks } from "@/features/calendar/panels/LabelsPanel";
import { ProfileTicks } from "@/features/profiles/ProfileTicks";
import { useProfiles, useSets } from "@/features/profiles/queries";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { useForm } from "@/ui/useForm";
import { type Rota, useRotaAction } from "./queries";
import { Seasons } from "./Seasons";

type RotaIn = Schemas["RotaIn"];
const NEW: RotaIn = {
  name: "", ink: "moss", profiles: [], active: false, order: "in_order", seed: 0, rest_days: 14, gap_days: 1, until: null,
  seasons: [], closed_days: [], signoff_each_copy: true, ahead_hours: 48,
}; // biome-ignore format: one body
const APART: [number, string][] = [
  [0, "in every slot"],
  [1, "at most once a day"],
  [2, "every second day at most"],
  [7, "once a week at most"],
];

/** A rota's settings, new or to be changed. */
export function RotaForm({ rota, close, kept }: { rota: Rota | null; close: () => void; kept: (id: number) => void }) {
  const { brand } = useBrandContext();
  const profiles = useProfiles(brand.slug).data ?? [];
  const sets = useSets(brand.slug).data ?? [];
  const form = useForm();
  const act = useRotaAction(brand.slug);
  const [data, setData] = useState<RotaIn>(() => (rota ? onlyIn(rota) : NEW));
  const set = (part: Partial<RotaIn>) => setData((now) => ({ ...now, ...part }));
  async function send(event: FormEvent) {
    event.preventDefault();
    await form.send(async () => {
      const page = rota
        ? await updateRota(brand.slug, rota.id, rota.revision, data)
        : await createRota(brand.slug, data);
      await act(async () => undefined);
      close();
      kept(page.rota.id);
    });
  }
  const whole = (value: string) => Math.max(0, Math.trunc(Number(value)) || 0);
  return (
    <SidePanel title={rota ? `Settings of ${rota.name}` : "New rota"} open close={close}>
      <chakra.form onSubmit={send} display="grid" gap="10px">
        <Field
          label="Name"
          value={data.name}
          onChange={(e) => set({ name: e.currentTarget.value })}
          error={form.at("/name")}
          maxLength={80}
          autoFocus
        />
        <Inks ink={data.ink} set={(ink) => set({ ink })} />
        <Box as="fieldset">
          <Box as="legend" fontWeight="600" fontSize="13px">
            Profiles
          </Box>
          <Flex gap="6px" flexWrap="wrap">
            {sets.map((one) => (
              <Button
                key={one.id}
                kind="quiet"
                onClick={() => set({ profiles: [...new Set([...data.profiles, ...one.profiles])] })}
              >
                + {one.name}
              </Button>
            ))}
          </Flex>
          <ProfileTicks
            profiles={profiles.filter((p) => p.state !== "disconnected" || data.profiles.includes(p.id))}
            chosen={data.profiles}
            change={(chosen) => set({ profiles: chosen })}
          />
          {form.at("/profiles") && (
            <Box role="alert" color="pimenton" fontSize="13px">
              {form.at("/profiles")}
            </Box>
          )}
        </Box>
        <Select
          label="Order"
          value={data.order}
          onChange={(e) => set({ order: e.currentTarget.value as RotaIn["order"] })}
        >
          <option value="in_order">as they stand</option>
          <option value="shuffle">shuffled; each once before any twice</option>
        </Select>
        <Select
          label="How close together"
          value={data.gap_days}
          onChange={(e) => set({ gap_days: Number(e.currentTarget.value) })}
        >
          {[
            ...APART,
            ...(APART.some(([n]) => n === data.gap_days)
              ? []
              : [[data.gap_days, `${data.gap_days} days apart`] as const]),
          ].map(([days, words]) => (
            <option key={days} value={days}>
              {words}
            </option>
          ))}
        </Select>
        <Field
          label="Rest: days before the same post comes back to a profile"
          type="number"
          min={0}
          max={400}
          value={data.rest_days}
          onChange={(e) => set({ rest_days: whole(e.currentTarget.value) })}
          error={form.at("/rest_days")}
        />
        <Field
          label="Made into posts so many hours ahead"
          type="number"
          min={1}
          max={336}
          value={data.ahead_hours}
          onChange={(e) => set({ ahead_hours: whole(e.currentTarget.value) })}
          error={form.at("/ahead_hours")}
        />
        <Field
          label="Last day (may stay empty)"
          type="date"
          value={data.until ?? ""}
          onChange={(e) => set({ until: e.currentTarget.value || null })}
          error={form.at("/until")}
        />
        <Seasons seasons={data.seasons ?? []} set={(seasons) => set({ seasons })} at={form.at} />
        <Closed days={data.closed_days ?? []} set={(closed) => set({ closed_days: closed })} />
        <Box as="fieldset">
          <Box as="legend" fontWeight="600" fontSize="13px">
            Sign-off, where the brand asks for it
          </Box>
          <Tick
            kind="radio"
            name="each"
            checked={data.signoff_each_copy}
            onChange={() => set({ signoff_each_copy: true })}
          >
            each time it goes out
          </Tick>
          <Tick
            kind="radio"
            name="each"
            checked={!data.signoff_each_copy}
            onChange={() => set({ signoff_each_copy: false })}
          >
            once for the same wording on the same profile
          </Tick>
        </Box>
        <Tick checked={data.active} onChange={(e) => set({ active: e.target.checked })}>
          On: what is near becomes posts by itself
        </Tick>
        {form.problem && form.loose("/name", "/profiles", "/rest_days", "/ahead", "/until", "/seasons") && (
          <Box role="alert" color="pimenton">
            {form.problem.status === 412
              ? "Somebody else changed it meanwhile. Close this and look."
              : form.problem.message}
          </Box>
        )}
        <Flex>
          <Button kind="main" type="submit" disabled={form.busy}>
            Keep
          </Button>
        </Flex>
      </chakra.form>
    </SidePanel>
  );
}

function onlyIn(rota: Rota): RotaIn {
  return Object.fromEntries(Object.keys(NEW).map((key) => [key, rota[key as keyof RotaIn]])) as RotaIn;
}

function Closed({ days, set }: { days: string[]; set: (days: string[]) => void }) {
  const [day, setDay] = useState("");
  return (
    <Box>
      <Flex gap="8px" align="flex-end">
        <Field
          label="Days on which it is silent"
          type="date"
          value={day}
          onChange={(e) => setDay(e.currentTarget.value)}
        />
        <Button
          disabled={!day}
          onClick={() => {
            set([...new Set([...days, day])].sort());
            setDay("");
          }}
        >
          Add the day
        </Button>
      </Flex>
      <Flex gap="6px" flexWrap="wrap" mt="4px">
        {days.map((one) => (
          <Button
            key={one}
            kind="quiet"
            aria-label={`Take ${one} out`}
            onClick={() => set(days.filter((other) => other !== one))}
          >
            {one} ✕
          </Button>
        ))}
      </Flex>
    </Box>
  );
}
