import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { api, got } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { useCalendar } from "@/features/calendar/queries";
import { Thumb } from "@/features/calendar/Tray";
import { useAssets } from "@/features/library/queries";
import { Button } from "@/ui/Button";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { useRotaDeed } from "./queries";

/** Fill a rota: drafts of the tray, posts of the last two weeks, pictures of the library. */
export function AddTurns({ rota, close }: { rota: number; close: () => void }) {
  const { brand } = useHere();
  const deed = useRotaDeed(brand.slug);
  const calendar = useCalendar(brand.slug, undefined, 14, {}).data;
  const assets = useAssets(brand.slug, {}, 1).data?.assets ?? [];
  const [posts, setPosts] = useState<number[]>([]);
  const [pictures, setPictures] = useState<number[]>([]);
  const [busy, setBusy] = useState(false);
  const toggled = (list: number[], id: number) => (list.includes(id) ? list.filter((x) => x !== id) : [...list, id]);
  const there = new Map((calendar?.tickets ?? []).map((t) => [t.post, t.headline]));
  const count = posts.length + pictures.length;
  async function add() {
    setBusy(true);
    const body = { posts, assets: pictures };
    const fine = await deed(
      () =>
        got(
          api.POST("/api/brands/{brand}/rotas/{id}/turns", { params: { path: { brand: brand.slug, id: rota } }, body }),
        ),
      `${count} ${count === 1 ? "turn" : "turns"} put in.`,
    );
    setBusy(false);
    if (fine) close();
  }
  return (
    <SidePanel title="Put turns in" open close={close}>
      <Group title="Drafts" empty="No drafts wait in the tray." note="They become turns, and leave the tray.">
        {(calendar?.tray ?? []).map((draft) => (
          <Tick
            key={draft.post}
            checked={posts.includes(draft.post)}
            onChange={() => setPosts(toggled(posts, draft.post))}
          >
            {draft.headline || "no words yet"}
          </Tick>
        ))}
      </Group>
      <Group
        title="Posts on the calendar"
        empty="Nothing stands in these two weeks."
        note="A copy of each becomes a turn."
      >
        {[...there].map(([post, headline]) => (
          <Tick key={post} checked={posts.includes(post)} onChange={() => setPosts(toggled(posts, post))}>
            {headline || "no words yet"}
          </Tick>
        ))}
      </Group>
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
      <Box position="sticky" bottom="-20px" bg="card" py="10px">
        <Button kind="main" disabled={busy || count === 0} onClick={() => void add()}>
          Put {count || ""} in
        </Button>
      </Box>
    </SidePanel>
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
      <Box maxH="230px" overflowY="auto">
        {children}
      </Box>
    </Box>
  );
}
