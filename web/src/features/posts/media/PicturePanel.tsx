import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { Button } from "@/ui/Button";
import { SidePanel } from "@/ui/SidePanel";
import { type BenchColumn, type Showing, saidIn, withShowing } from "../draft";
import { columnName, usePlace } from "../place";
import { AltField } from "./AltField";
import { CoverEditor } from "./CoverEditor";
import { CropEditor } from "./CropEditor";
import { PeopleEditor } from "./PeopleEditor";
import { WordsEditor } from "./WordsEditor";

type Props = {
  asset: number;
  column?: BenchColumn;
  story: boolean;
  earlier?: () => void;
  later?: () => void;
  out: () => void;
  close: () => void;
};

/** Work on one picture or video, for the master or for one column. The original stays as it is. */
export function PicturePanel({ asset: id, column, story, earlier, later, out, close }: Props) {
  const { assets, networks, change, now, added } = usePlace();
  const asset = assets.get(id);
  const key = column?.key ?? null;
  const network = column ? networks.get(column.network) : undefined;
  const own = (key === null ? now().master.shown : now().overrides[key]?.shown)?.[id] ?? {};
  const inherited = now().master.shown?.[id] ?? {};
  const [values, setValues] = useState<Showing>(own);
  if (!asset) return null;
  const showing = { ...(key === null ? {} : inherited), ...saidIn(values) };
  const set = (more: Partial<Showing>) => {
    const next = { ...values, ...more };
    setValues(next);
    change((d) => withShowing(d, key, id, more));
  };
  const others = column === undefined ? [...networks.values()] : [];
  const still = asset.kind === "picture";
  return (
    <SidePanel
      title={`${asset.name} for ${column ? columnName(column, networks) : "every network"}`}
      open
      close={close}
    >
      {still && (
        <CropEditor
          asset={asset}
          showing={showing}
          ratios={(network?.ratios ?? []).filter((r) => r.form === (story ? "story" : "post"))}
          set={set}
        />
      )}
      {asset.kind === "video" && (column === undefined || network?.takes_cover) && (
        <CoverEditor asset={asset} showing={showing} set={set} />
      )}
      {story && <WordsEditor showing={showing} set={set} />}
      {still && !story && (network?.takes_people || others.some((n) => n.takes_people)) && (
        <PeopleEditor asset={asset} showing={showing} set={set} />
      )}
      <Box mt="16px">
        <AltField asset={asset} added={added} />
      </Box>
      <Flex gap="8px" mt="18px" borderTopWidth="1px" borderColor="rule" pt="14px" flexWrap="wrap">
        <Button kind="main" onClick={close}>
          Done
        </Button>
        {earlier && <Button onClick={earlier}>Earlier</Button>}
        {later && <Button onClick={later}>Later</Button>}
        <Button onClick={out}>Take it out</Button>
        {Object.keys(saidIn(values)).length > 0 && (
          <Button
            onClick={() =>
              set({
                turn: null,
                crop: null,
                focus: null,
                fit: null,
                words: null,
                words_at: null,
                people: null,
                cover: null,
                cover_at: null,
              })
            }
          >
            {column ? "Put back to the master" : "Put back to the original"}
          </Button>
        )}
      </Flex>
    </SidePanel>
  );
}
