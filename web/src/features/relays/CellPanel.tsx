import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { createRelay, deleteRelay, switchRelay, updateRelay } from "@/data/relays";
import { Bar } from "@/ui/Bar";
import { Button } from "@/ui/Button";
import { Picker } from "@/ui/Select";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { AdaptationFields } from "./AdaptationFields";
import { fullName, type Spot } from "./Board";
import { Conditions } from "./Conditions";
import { Messages } from "./Messages";
import { OutcomeFields } from "./OutcomeFields";
import { type Cell, useRelayAction } from "./queries";
import { Samples } from "./Samples";
import { type Draft, draftOf } from "./settings";

/** One cell: which items it takes, what they become, how they go; tried on the last ten before it is switched on. */
export function CellPanel({ spot, cell, close }: { spot: Spot; cell: Cell | null; close: () => void }) {
  const { brand, may } = useBrandContext();
  const form = useForm();
  const act = useRelayAction(brand.slug);
  const [data, setData] = useState<Draft>(() => draftOf(cell, spot.row));
  const [take, setTake] = useState(0);
  const [leaving, setLeaving] = useState(false);
  const set = (part: Partial<Draft>) => setData((now) => ({ ...now, ...part }));
  const source = { key: spot.row.key, event: spot.row.event, event_name: spot.row.event_name };
  const path = { brand: brand.slug };
  const body = { ...data, source, target: spot.target.id };
  const mayEdit = may("publish");

  async function keep(): Promise<Cell | null> {
    let kept: Cell | null = null;
    await form.send(async () => {
      kept = cell ? await updateRelay(brand.slug, cell.id, cell.revision, data) : await createRelay(brand.slug, body);
    });
    return kept;
  }
  async function send(event: FormEvent) {
    event.preventDefault();
    if (await keep()) {
      await act(async () => undefined, "Kept.");
      close();
    }
  }
  async function turn(on: boolean) {
    const kept = on ? await keep() : cell;
    if (!kept) return;
    const done = await act(
      () => switchRelay(brand.slug, kept.id, { active: on, earlier_items: on ? take : 0 }),
      on
        ? take
          ? `On, with the last ${take}.`
          : "On: what appears from now on is carried."
        : "Off. What it carried stays.",
    );
    if (done) close();
  }
  async function empty() {
    if (!cell) return;
    const done = await act(
      () => deleteRelay(brand.slug, cell.id),
      "The cell is empty. What it carried stays.",
      async () => {
        const as = { ...draftOf(cell, spot.row), source, target: spot.target.id };
        await act(() => createRelay(brand.slug, as), "It is back, switched off.");
      },
    );
    if (done) close();
  }
  const loose = form.loose(
    "/messages",
    "/adaptation",
    "/hours",
    "/confirmation",
    "/timing",
    "/link_tags",
    "/conditions",
    "/daily_limit",
    "/hourly_limit",
    "/delay_minutes",
  );
  return (
    <SidePanel
      title={`${fullName(spot.row)} to ${spot.target.display_name || spot.target.handle}`}
      open
      close={close}
      wide
    >
      <Flex gap="12px" align="baseline" flexWrap="wrap" mb="10px" color="faded">
        <span>
          {!cell ? "Nothing here yet." : cell.active ? `On. ${cell.fires} carried in 7 days.` : "Switched off."}
        </span>
        {cell && (
          <Link
            to="/$brand/relays/log"
            params={path}
            search={{ relay: cell.id }}
            style={{ textDecoration: "underline" }}
          >
            What became of what it saw
          </Link>
        )}
      </Flex>
      {cell?.paused_reason && (
        <Box mb="10px">
          <Bar tone="pimenton" role="alert">
            It paused itself. {cell.paused_reason}
          </Bar>
        </Box>
      )}
      <form onSubmit={send}>
        <chakra.fieldset disabled={!mayEdit} display="grid" gap="4px">
          <Conditions data={data} set={set} kind={spot.row.kind} error={form.at} />
          <Messages data={data} set={set} row={spot.row} at={form.at} />
          <AdaptationFields data={data} set={set} target={spot.target} kind={spot.row.kind} at={form.at} />
          <OutcomeFields data={data} set={set} at={form.at} />
        </chakra.fieldset>
        <Samples
          body={body}
          faults={(problem) => void form.send(() => (problem ? Promise.reject(problem) : Promise.resolve()))}
        />
        {loose && (
          <Box role="alert" color="pimenton" mt="8px">
            {form.problem?.status === 412 ? "Somebody else changed it meanwhile. Close this and look." : loose}
          </Box>
        )}
        {mayEdit && (
          <Flex
            position="sticky"
            bottom="-20px"
            bg="card"
            py="12px"
            mt="10px"
            gap="10px"
            align="center"
            flexWrap="wrap"
            borderTopWidth="1px"
            borderColor="rule"
          >
            {cell?.active && !cell.paused_reason ? (
              <>
                <Button kind="main" type="submit" disabled={form.busy}>
                  Keep
                </Button>
                <Button onClick={() => void turn(false)}>Switch off</Button>
              </>
            ) : (
              <>
                <Button kind="main" disabled={form.busy} onClick={() => void turn(true)}>
                  Switch on
                </Button>
                <Picker
                  aria-label="From when"
                  w="auto"
                  value={take}
                  onChange={(e) => setTake(Number(e.currentTarget.value))}
                >
                  <option value={0}>from now on</option>
                  {[1, 3, 5, 10].map((n) => (
                    <option key={n} value={n}>
                      and the last {n === 1 ? "one" : n}
                    </option>
                  ))}
                </Picker>
                <Button type="submit" disabled={form.busy}>
                  Keep, switched off
                </Button>
              </>
            )}
            <Box flex="1" />
            {cell &&
              (leaving ? (
                <>
                  <Button kind="quiet" color="pimenton" onClick={() => void empty()}>
                    Yes, empty it
                  </Button>
                  <Button kind="quiet" onClick={() => setLeaving(false)}>
                    No
                  </Button>
                </>
              ) : (
                <Button kind="quiet" onClick={() => setLeaving(true)}>
                  Empty the cell
                </Button>
              ))}
          </Flex>
        )}
      </form>
    </SidePanel>
  );
}
