import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { addTurnWording, removeTurnWording, updateTurn } from "@/data/rotas";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { type Turn, useRotaAction } from "./queries";
import { Seasons } from "./Seasons";

/** One turn: its wordings, which go one after another, and how often and when it may go. */
export function TurnPanel({ rota, turn, close }: { rota: number; turn: Turn; close: () => void }) {
  const { brand } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const form = useForm();
  const [times, setTimes] = useState(turn.times === null ? "" : String(turn.times));
  const [until, setUntil] = useState(turn.until ?? "");
  const [seasons, setSeasons] = useState(turn.seasons);
  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { times: times ? Number(times) : null, until: until || null, seasons };
    const fine = await form.send(() => updateTurn(brand.slug, rota, turn.id, body));
    if (!fine) return;
    await act(async () => undefined, "Kept.");
    close();
  }
  return (
    <SidePanel title={turn.wordings[0]?.headline || "A turn without words"} open close={close}>
      <Box as="h3" fontWeight="600" fontSize="13px">
        Wordings, used one after another
      </Box>
      {turn.wordings.map((one) => (
        <Flex key={one.id} align="center" gap="8px" py="4px" borderBottomWidth="1px" borderColor="rule">
          <Box flex="1" minW="0" overflowWrap="anywhere">
            <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: String(one.post) }} search={{}}>
              <u>{one.headline || "no words yet"}</u>
            </Link>
          </Box>
          {turn.wordings.length > 1 && (
            <Button
              kind="quiet"
              aria-label={`Take out: ${one.headline}`}
              onClick={() => void act(() => removeTurnWording(brand.slug, rota, turn.id, one.id))}
            >
              ✕
            </Button>
          )}
        </Flex>
      ))}
      <Button
        mt="8px"
        onClick={() =>
          void act(
            () => addTurnWording(brand.slug, rota, turn.id, {}),
            "Another wording is there: change it on the Bench.",
          )
        }
      >
        Add a wording
      </Button>
      <chakra.form onSubmit={send} display="grid" gap="10px" mt="20px">
        <Field
          label="Goes to a profile so many times at most (may stay empty)"
          type="number"
          min={1}
          max={1000}
          value={times}
          onChange={(e) => setTimes(e.currentTarget.value)}
          error={form.at("/times")}
        />
        <Field
          label="Its last day (may stay empty)"
          type="date"
          value={until}
          onChange={(e) => setUntil(e.currentTarget.value)}
          error={form.at("/until")}
        />
        <Seasons seasons={seasons} set={setSeasons} at={form.at} />
        <Flex>
          <Button kind="main" type="submit" disabled={form.busy}>
            Keep
          </Button>
        </Flex>
      </chakra.form>
    </SidePanel>
  );
}
