import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { calendarQueries } from "@/data/calendar";
import { addTurns } from "@/data/rotas";
import { useTray } from "@/features/calendar/queries";
import { Thumb } from "@/features/calendar/Tray";
import { useAssets } from "@/features/library/queries";
import { Button } from "@/ui/Button";
import { MANY, SHOWN } from "@/ui/choices";
import { Input } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { useSettled } from "@/ui/useSettled";
import { FillQuotations } from "./FillQuotations";
import { FillTable } from "./FillTable";
import { useRotaAction, useTopPosts } from "./queries";

const FROM = [
  ["posts", "Drafts and posts"],
  ["well", "What did well"],
  ["pictures", "Pictures"],
  ["quotations", "Quotations"],
  ["table", "A table"],
] as const;
const DAYS = 14;
const PAUSE_MS = 250;
type From = (typeof FROM)[number][0];

/** Fill a rota: from drafts and posts, from what did well, pictures, quotations, or a table of texts. */
export function AddTurns({ rota, close }: { rota: number; close: () => void }) {
  const [from, setFrom] = useState<From>("posts");
  return (
    <SidePanel title="Put turns in" open close={close} wide>
      <Flex role="group" aria-label="From" gap="6px" flexWrap="wrap" mb="14px">
        {FROM.map(([kind, words]) => (
          <Button
            key={kind}
            aria-pressed={from === kind}
            kind={from === kind ? "main" : "plain"}
            onClick={() => setFrom(kind)}
          >
            {words}
          </Button>
        ))}
      </Flex>
      {from === "quotations" && <FillQuotations rota={rota} close={close} />}
      {from === "table" && <FillTable rota={rota} close={close} />}
      {(from === "posts" || from === "well" || from === "pictures") && (
        <FillPosts key={from} {...{ rota, close, from }} />
      )}
    </SidePanel>
  );
}

function FillPosts({ rota, close, from }: { rota: number; close: () => void; from: From }) {
  const { brand } = useBrandContext();
  const act = useRotaAction(brand.slug);
  const [typed, setTyped] = useState("");
  const words = useSettled(typed.trim(), PAUSE_MS);
  const narrow = words ? { words } : {};
  const drafts = useTray(brand.slug, narrow).data?.drafts ?? [];
  const planned = useQuery(calendarQueries.firstCards(brand.slug, DAYS, narrow)).data?.tickets ?? [];
  const assets = useAssets(brand.slug, {}, 1).data?.assets ?? [];
  const well = useTopPosts(brand.slug).data ?? [];
  const [posts, setPosts] = useState<number[]>([]);
  const [pictures, setPictures] = useState<number[]>([]);
  const [busy, setBusy] = useState(false);
  const toggled = (list: number[], id: number) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id]);
  const there = [...new Map(planned.map((t) => [t.post, t.headline]))];
  const isLong = typed !== "" || drafts.length + there.length > MANY;
  const count = posts.length + pictures.length;
  const post = (id: number, words: React.ReactNode) => (
    <Tick key={id} checked={posts.includes(id)} onChange={() => setPosts(toggled(posts, id))}>
      {words || "no words yet"}
    </Tick>
  );
  async function add() {
    setBusy(true);
    const body = { posts, assets: pictures };
    const fine = await act(
      () => addTurns(brand.slug, rota, body),
      `${count} ${count === 1 ? "turn" : "turns"} put in.`,
    );
    setBusy(false);
    if (fine) close();
  }
  return (
    <>
      {from === "posts" && (
        <>
          {isLong && (
            <Input
              type="search"
              aria-label="Look for words in drafts and posts"
              placeholder="words in posts"
              maxLength={100}
              mb="12px"
              value={typed}
              onChange={(event) => setTyped(event.currentTarget.value)}
            />
          )}
          <Group
            title="Drafts"
            empty={words ? "No draft says that." : "No drafts wait in the tray."}
            note="They become turns, and leave the tray."
          >
            {drafts.map((draft) => post(draft.post, draft.headline))}
          </Group>
          <Group
            title="Posts on the calendar"
            empty={words ? "None of these two weeks says that." : "Nothing stands in these two weeks."}
            note="A copy of each becomes a turn."
          >
            {there.slice(0, SHOWN).map(([id, headline]) => post(id, headline))}
          </Group>
          {there.length > SHOWN && (
            <Box color="faded" fontSize="12px" mb="12px">
              The first {SHOWN} of them: look for words to find the others.
            </Box>
          )}
        </>
      )}
      {from === "well" && (
        <Group
          title="Posts of the last year that did better than usual"
          empty="Nothing measured yet did better than its profiles usually do."
          note="A copy of each becomes a turn. Beside each: how many times what its profiles usually earn."
        >
          {well.map((one) =>
            post(
              one.post,
              <Flex as="span" gap="8px" align="center">
                <Box as="b" w="44px" flex="none" fontVariantNumeric="tabular-nums">
                  {one.times_usual.toFixed(1)}×
                </Box>
                {one.thumb && <Thumb brand={brand.slug} asset={one.thumb} w="34px" h="30px" />}
                <span>{one.headline}</span>
              </Flex>,
            ),
          )}
        </Group>
      )}
      {from === "pictures" && (
        <Group title="Pictures" empty="The library is empty." note="Each becomes a turn that says its caption.">
          {assets.map((asset) => (
            <Tick
              key={asset.id}
              checked={pictures.includes(asset.id)}
              onChange={() => setPictures(toggled(pictures, asset.id))}
            >
              <Flex as="span" gap="8px" align="center">
                <Thumb brand={brand.slug} asset={asset.id} w="34px" h="30px" />
                <Box as="span" overflowWrap="anywhere">
                  {asset.caption || asset.name}
                </Box>
              </Flex>
            </Tick>
          ))}
        </Group>
      )}
      <Box position="sticky" bottom="-20px" bg="card" py="10px">
        <Button kind="main" disabled={busy || count === 0} onClick={() => void add()}>
          Put {count || ""} in
        </Button>
      </Box>
    </>
  );
}

type GroupProps = { title: string; empty: string; note: string; children: React.ReactNode[] };

function Group({ title, empty, note, children }: GroupProps) {
  return (
    <Box as="fieldset" mb="14px">
      <Box as="legend" fontWeight="600">
        {title}
      </Box>
      <Box color="faded" fontSize="12px">
        {children.length ? note : empty}
      </Box>
      {children}
    </Box>
  );
}
