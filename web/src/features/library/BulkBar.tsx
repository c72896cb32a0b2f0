import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { Input } from "@/ui/Field";
import { Picker } from "@/ui/Select";
import { BatchButton } from "./BatchButton";
import type { Asset, useMediaActions } from "./queries";

type Props = {
  assets: Asset[];
  shelves: Schemas["ShelvesOut"] | undefined;
  binned: boolean;
  deeds: ReturnType<typeof useMediaActions>;
  clear: () => void;
  all: () => void;
};

/** What can be done with what is chosen. */
export function BulkBar({ assets, shelves, binned, deeds, clear, all }: Props) {
  const { may } = useBrandContext();
  const [into, setInto] = useState("");
  const [label, setLabel] = useState("");
  const [laying, setLaying] = useState(false);
  const ids = assets.map((a) => a.id);
  const folder = into ? Number(into) : null;
  const name = shelves?.folders.find((f) => f.id === folder)?.name ?? "no folder";
  const done = (ok: boolean) => ok && clear();
  return (
    <Flex
      role="region"
      aria-label="What is chosen"
      gap="8px"
      align="center"
      flexWrap="wrap"
      bg="wash"
      p="8px 12px"
      mb="12px"
      borderLeft="3px solid"
      borderColor="anil"
    >
      <b>{assets.length === 1 ? "1 chosen" : `${assets.length} chosen`}</b>
      <Button kind="link" onClick={all}>
        All that is shown
      </Button>
      <Button kind="link" onClick={clear}>
        None
      </Button>
      <Box flex="1" />
      {may("write") && binned && (
        <Button kind="main" onClick={() => void deeds.restore(ids).then(done)}>
          Out of the bin
        </Button>
      )}
      {may("write") && !binned && (
        <>
          <Picker aria-label="Into the folder" value={into} onChange={(e) => setInto(e.currentTarget.value)} w="112px">
            <option value="">no folder</option>
            {shelves?.folders.map((f) => (
              <option key={f.id} value={f.id}>
                {f.name}
              </option>
            ))}
          </Picker>
          <Button onClick={() => void deeds.move(assets, folder, name).then(done)}>Move</Button>
          <Button onClick={() => void deeds.copy(ids, folder, name).then(done)}>Copy</Button>
          <Input
            aria-label="Label"
            placeholder="label"
            value={label}
            maxLength={60}
            onChange={(e) => setLabel(e.currentTarget.value)}
            w="76px"
          />
          <Button
            disabled={!label.trim()}
            onClick={() => void deeds.label(ids, [label.trim()], []).then((ok) => ok && setLabel(""))}
          >
            Give it
          </Button>
          <Button
            disabled={!label.trim()}
            onClick={() => void deeds.label(ids, [], [label.trim()]).then((ok) => ok && setLabel(""))}
          >
            Take it off
          </Button>
          <Button onClick={() => setLaying(true)}>Make drafts</Button>
          <Button onClick={() => void deeds.bin(ids).then(done)}>To the bin</Button>
        </>
      )}
      {laying && <BatchButton assets={assets} close={() => setLaying(false)} />}
    </Flex>
  );
}
