import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { insightQueries } from "@/data/insight";
import { insertTags } from "@/data/posts";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { withMaster, withOverrides } from "../draft";
import { usePlace } from "../place";
import { useSayings } from "../queries";

type Props = { text: string; change: (text: string) => void; network?: string; close: () => void };

/** Hashtags for a text: proposals, each with why, and the brand's tag sets; into the text or the first comment. */
export function TagsPanel({ text, change, network, close }: Props) {
  const { brand } = useBrandContext();
  const place = usePlace();
  const sayings = useSayings(brand.slug).data;
  const [chosen, setChosen] = useState<string[]>([]);
  const column = place.columns.find((c) => c.key === network);
  const comments = network === undefined || place.networks.get(column?.network ?? "")?.takes_comment;
  const found = useQuery(insightQueries.hashtags(brand.slug, { text, campaign: place.now().campaign }));
  const toggle = (tags: string[], on: boolean) =>
    setChosen((all) => [...all.filter((tag) => !tags.includes(tag)), ...(on ? tags : [])]);

  async function put(where: "text" | "first_comment") {
    const draft = place.now();
    const own = network === undefined ? draft.master : { ...draft.master, ...said(draft.overrides[network]) };
    const before = where === "text" ? text : (own.first_comment ?? "");
    const body = { text: before, tags: chosen };
    const after = (await insertTags(brand.slug, body)).text;
    if (where === "text") change(after);
    else {
      place.change((d) =>
        network === undefined
          ? withMaster(d, { first_comment: after })
          : withOverrides(d, network, { first_comment: after }),
      );
    }
    close();
  }
  return (
    <SidePanel title="Hashtags" open close={close}>
      {found.error && <QueryFailed error={found.error} />}
      {found.isPending && <Loading />}
      {found.data?.length === 0 && (
        <Box color="faded">
          Nothing suits this text yet. Topics and standing hashtags of the brand sheet, and what went out before, are
          what proposals are made of.
        </Box>
      )}
      {found.data?.map(({ tag, why }) => (
        <Tick key={tag} checked={chosen.includes(tag)} onChange={(e) => toggle([tag], e.target.checked)}>
          <b>#{tag}</b>
          <Box color="faded" fontSize="12px" lineHeight="16px">
            {why.join("; ")}
          </Box>
        </Tick>
      ))}
      {(sayings?.tag_sets.length ?? 0) > 0 && (
        <Box as="h3" fontSize="16px" mt="16px" mb="6px">
          Tag sets
        </Box>
      )}
      {sayings?.tag_sets.map((set) => (
        <Tick
          key={set.id}
          checked={set.tags.every((tag) => chosen.includes(tag))}
          onChange={(e) => toggle(set.tags, e.target.checked)}
        >
          <b>{set.name}</b>
          <Box color="faded" fontSize="12px" lineHeight="16px" overflowWrap="anywhere">
            {set.tags.map((tag) => `#${tag}`).join(" ")}
          </Box>
        </Tick>
      ))}
      <Flex gap="8px" mt="16px" flexWrap="wrap" align="center">
        <Button kind="main" disabled={chosen.length === 0} onClick={() => void put("text")}>
          Put {chosen.length || ""} in the text
        </Button>
        {comments && (
          <Button disabled={chosen.length === 0} onClick={() => void put("first_comment")}>
            In the first comment
          </Button>
        )}
      </Flex>
      <Box color="faded" fontSize="12px" mt="8px">
        Each goes in at most once. How many are good practice, each network's column says.
      </Box>
    </SidePanel>
  );
}

function said<T extends object>(own: T | undefined): Partial<T> {
  return Object.fromEntries(Object.entries(own ?? {}).filter(([, value]) => value !== null)) as Partial<T>;
}
