import { Box, Flex } from "@chakra-ui/react";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { deleteRota, setPlacement, swapPlacements, updateRota } from "@/data/rotas";
import { InkMark } from "@/features/calendar/Labels";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { AddTurns } from "./AddTurns";
import { type RotaPage as Page, type Upcoming, useRota, useRotaAction } from "./queries";
import { Roll, type RollActions } from "./Roll";
import { RotaForm } from "./RotaForm";
import { WeeklySlots } from "./WeeklySlots";

/** One rota: its slots, its turns and its coming weeks, as a roll. */
export function RotaPage() {
  const { brand } = useBrandContext();
  const { rota } = useParams({ from: "/$brand/rotas/$rota" });
  const found = useRota(brand.slug, Number(rota));
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return <Shown page={found.data} />;
}

function Shown({ page }: { page: Page }) {
  const { brand, may } = useBrandContext();
  const { rota } = page;
  const navigate = useNavigate();
  const here = useHere();
  const act = useRotaAction(brand.slug);
  const actions = useDeeds(rota.id);
  const [panel, setPanel] = useState<"settings" | "add" | null>(null);
  const [leaving, setLeaving] = useState(false);
  const handles = new Map(page.upcoming.map((one) => [one.profile, one.handle]));
  const [chosen, setChosen] = useState<number | null>(null);
  const profile = chosen !== null && handles.has(chosen) ? chosen : handles.keys().next().value;
  const coming = page.upcoming.filter((one) => one.profile === profile);
  const trouble = [...new Set(page.upcoming.map((one) => one.last_error).filter(Boolean))];
  async function turnOn() {
    const { id, revision, label, turns, slots, without_slots, next, exhaustion: dry, ...settings } = rota;
    const body = { ...settings, active: !rota.active };
    await act(
      () => updateRota(brand.slug, rota.id, revision, body),
      rota.active ? "The rota is off. What it planned stays." : "The rota is on. What is near is planned.",
    );
  }
  async function remove() {
    const from = here();
    const gone = await act(
      () => deleteRota(brand.slug, rota.id),
      `The rota ${rota.name} is deleted. What it planned stays, its turns are drafts again.`,
    );
    if (gone && here() === from) await navigate({ to: "/$brand/rotas", params: { brand: brand.slug } });
  }
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" w="100%" minW="0">
      <Flex align="center" gap="12px" mb="10px" flexWrap="wrap">
        <InkMark ink={rota.ink} />
        <Box as="h1" fontSize="28px" lineHeight="32px" overflowWrap="anywhere">
          {rota.name}
        </Box>
        <Box color={rota.active ? "epazote" : "faded"} fontWeight="600">
          {rota.active ? "on" : "off"}
        </Box>
        <Box flex="1" />
        {may("publish") && (
          <>
            {leaving ? (
              <>
                <Button kind="quiet" color="pimenton" onClick={() => void remove()}>
                  Yes, delete it
                </Button>
                <Button kind="quiet" onClick={() => setLeaving(false)}>
                  No
                </Button>
              </>
            ) : (
              <Button kind="quiet" onClick={() => setLeaving(true)}>
                Delete
              </Button>
            )}
            <Button onClick={() => setPanel("settings")}>Settings</Button>
            <Button onClick={() => setPanel("add")}>Put turns in</Button>
            <Button kind={rota.active ? "plain" : "main"} onClick={() => void turnOn()}>
              {rota.active ? "Switch off" : "Switch on"}
            </Button>
          </>
        )}
      </Flex>
      <Box display="grid" gap="6px" mb="12px">
        {rota.exhaustion.map((one) => (
          <Bar key={one.profile} tone="maize" role="status">
            {one.summary}
          </Bar>
        ))}
        {trouble.map((words) => (
          <Bar key={words} tone="pimenton" role="alert">
            A turn could not be planned, and is tried again: {words}
          </Bar>
        ))}
        {rota.without_slots.length > 0 && (
          <Bar tone="maize" role="status">
            No slots are kept for it yet: {rota.without_slots.join(", ")}.
          </Bar>
        )}
      </Box>
      <WeeklySlots page={page} />
      {handles.size > 1 && (
        <Picker
          aria-label="Whose weeks"
          w="auto"
          mb="8px"
          value={profile}
          onChange={(e) => setChosen(Number(e.currentTarget.value))}
        >
          {[...handles].map(([id, handle]) => (
            <option key={id} value={id}>
              {handle}
            </option>
          ))}
        </Picker>
      )}
      {page.turns.length === 0 ? (
        <Box color="faded" my="24px">
          Nothing takes turns yet. Put drafts, posts that did well, or pictures in.
        </Box>
      ) : (
        <Roll page={page} coming={coming} deeds={actions} />
      )}
      {panel === "settings" && <RotaForm rota={rota} close={() => setPanel(null)} kept={() => undefined} />}
      {panel === "add" && <AddTurns rota={rota.id} close={() => setPanel(null)} />}
    </Box>
  );
}

/** What is done to single slots; each can be undone by putting back what stood there. */
function useDeeds(id: number): RollActions {
  const { brand } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const place = (one: Upcoming, turn: number | null, free = false) =>
    setPlacement(brand.slug, id, { profile: one.profile, at: one.at, turn, free });
  const back = (one: Upcoming) => async () => void (await act(() => place(one, one.turn, !one.fixed)));
  return {
    put: (one, turn) =>
      void act(() => place(one, turn), turn === null ? "Nothing goes there." : "Fixed there.", back(one)),
    free: (one) => void act(() => place(one, null, true), "The rota chooses there again.", back(one)),
    swap: (one, other) => void act(() => swapPlacements(brand.slug, id, { one, other }), "Swapped."),
  };
}
