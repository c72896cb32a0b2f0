import { Box, Flex } from "@chakra-ui/react";
import { useNavigate, useParams } from "@tanstack/react-router";
import { useState } from "react";
import { api, got } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { InkMark } from "@/features/calendar/Labels";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { Failed } from "@/ui/Failed";
import { Loading } from "@/ui/Loading";
import { Picker } from "@/ui/Select";
import { AddTurns } from "./AddTurns";
import { type Coming, type RotaPage as Page, useRota, useRotaDeed } from "./queries";
import { Roll, type RollDeeds } from "./Roll";
import { RotaForm } from "./RotaForm";
import { WeeklySlots } from "./WeeklySlots";

/** One rota: its slots, its turns and its coming weeks, as a roll. */
export function RotaPage() {
  const { brand } = useHere();
  const { rota } = useParams({ from: "/$brand/rotas/$rota" });
  const found = useRota(brand.slug, Number(rota));
  if (found.error && !found.data) return <Failed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  return <Shown page={found.data} />;
}

function Shown({ page }: { page: Page }) {
  const { brand, may } = useHere();
  const { rota } = page;
  const navigate = useNavigate();
  const deed = useRotaDeed(brand.slug);
  const deeds = useDeeds(rota.id);
  const [panel, setPanel] = useState<"settings" | "add" | null>(null);
  const [leaving, setLeaving] = useState(false);
  const handles = new Map(page.coming.map((one) => [one.profile, one.handle]));
  const [chosen, setChosen] = useState<number | null>(null);
  const profile = chosen !== null && handles.has(chosen) ? chosen : handles.keys().next().value;
  const coming = page.coming.filter((one) => one.profile === profile);
  const path = { brand: brand.slug, id: rota.id };
  const trouble = [...new Set(page.coming.map((one) => one.trouble).filter(Boolean))];
  async function turnOn() {
    const { id, revision, label, turns, slots, without_slots, next, dry, ...settings } = rota;
    const body = { ...settings, on: !rota.on };
    await deed(
      () =>
        got(
          api.PUT("/api/brands/{brand}/rotas/{id}", {
            params: { path },
            headers: { "If-Match": `"${revision}"` },
            body,
          }),
        ),
      rota.on ? "The rota is off. What it planned stays." : "The rota is on. What is near is planned.",
    );
  }
  async function remove() {
    const gone = await deed(
      () => got(api.DELETE("/api/brands/{brand}/rotas/{id}", { params: { path } })),
      `The rota ${rota.name} is deleted. What it planned stays, its turns are drafts again.`,
    );
    if (gone) await navigate({ to: "/$brand/rotas", params: { brand: brand.slug } });
  }
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" w="100%" minW="0">
      <Flex align="center" gap="12px" mb="10px" flexWrap="wrap">
        <InkMark ink={rota.ink} />
        <Box as="h1" fontSize="28px" lineHeight="32px" overflowWrap="anywhere">
          {rota.name}
        </Box>
        <Box color={rota.on ? "epazote" : "faded"} fontWeight="600">
          {rota.on ? "on" : "off"}
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
            <Button kind={rota.on ? "plain" : "main"} onClick={() => void turnOn()}>
              {rota.on ? "Switch off" : "Switch on"}
            </Button>
          </>
        )}
      </Flex>
      <Box display="grid" gap="6px" mb="12px">
        {rota.dry.map((one) => (
          <Bar key={one.profile} tone="maize" role="status">
            {one.words}
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
        <Roll page={page} coming={coming} deeds={deeds} />
      )}
      {panel === "settings" && <RotaForm rota={rota} close={() => setPanel(null)} kept={() => undefined} />}
      {panel === "add" && <AddTurns rota={rota.id} close={() => setPanel(null)} />}
    </Box>
  );
}

/** What is done to single slots; each can be undone by putting back what stood there. */
function useDeeds(id: number): RollDeeds {
  const { brand } = useHere();
  const deed = useRotaDeed(brand.slug);
  const path = { brand: brand.slug, id };
  const place = (one: Coming, turn: number | null, free = false) =>
    got(
      api.PUT("/api/brands/{brand}/rotas/{id}/places", {
        params: { path },
        body: { profile: one.profile, at: one.at, turn, free },
      }),
    );
  const back = (one: Coming) => async () => void (await deed(() => place(one, one.turn, !one.fixed)));
  return {
    put: (one, turn) =>
      void deed(() => place(one, turn), turn === null ? "Nothing goes there." : "Fixed there.", back(one)),
    free: (one) => void deed(() => place(one, null, true), "The rota chooses there again.", back(one)),
    swap: (one, other) =>
      void deed(
        () => got(api.POST("/api/brands/{brand}/rotas/{id}/places/swap", { params: { path }, body: { one, other } })),
        "Swapped.",
      ),
  };
}
