import { Box, Flex } from "@chakra-ui/react";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useSayings } from "@/features/posts/queries";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import type { Shelf } from "./LibraryPage";
import { type Saying, SayingPanel } from "./SayingPanel";

export type SayingKind = Extract<Shelf, "snippets" | "tag-sets" | "link-tags">;

const ABOUT: Record<SayingKind, [string, string, string]> = {
  snippets: [
    "New snippet",
    "No snippets yet.",
    "A snippet is wording to say again. Type / where you write to insert it.",
  ],
  "tag-sets": ["New tag set", "No tag sets yet.", "A tag set puts its hashtags in at one stroke, each at most once."],
  "link-tags": [
    "New link tags",
    "No link tags yet.",
    "Link tags are added to a post's links, so that the site can tell where its visitors come from.",
  ],
};

/** What is kept to be said again: snippets, tag sets or link tags. */
export function SayingsPage({ kind }: { kind: SayingKind }) {
  const { brand, may } = useBrandContext();
  const found = useSayings(brand.slug);
  const [open, setOpen] = useState<Saying | "new" | null>(null);
  if (found.error) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const [make, none, about] = ABOUT[kind];
  const rows: Saying[] = {
    snippets: found.data.snippets.map((s) => ({ id: s.id, name: s.name, shows: s.text, said: { text: s.text } })),
    "tag-sets": found.data.tag_sets.map((s) => ({
      id: s.id,
      name: s.name,
      shows: s.tags.map((tag) => `#${tag}`).join(" "),
      said: { tags: s.tags.join(" ") },
    })),
    "link-tags": found.data.link_tags.map((s) => ({
      id: s.id,
      name: s.name,
      shows: (["source", "medium", "campaign", "content", "term"] as const)
        .filter((part) => s[part])
        .map((part) => `utm_${part}=${s[part]}`)
        .join(" & "),
      said: {
        source: s.source,
        medium: s.medium,
        campaign: s.campaign,
        content: s.content,
        term: s.term,
        keeps: s.keeps,
        in_text: s.in_text,
      },
    })),
  }[kind];
  return (
    <Box maxW="860px">
      <Flex justify="space-between" align="center" gap="12px" mb="12px" flexWrap="wrap">
        <Box color="faded">{about}</Box>
        {may("write") && <Button onClick={() => setOpen("new")}>{make}</Button>}
      </Flex>
      {rows.length === 0 && <EmptyState title={none} words={about} />}
      {rows.map((row) => (
        <Flex key={row.id} borderTopWidth="1px" borderColor="rule" py="10px" gap="14px" align="flex-start">
          <Box w="190px" flex="none" fontWeight="600" overflowWrap="anywhere">
            {row.name}
          </Box>
          <Box flex="1" whiteSpace="pre-wrap" overflowWrap="anywhere">
            {row.shows}
          </Box>
          {may("write") && (
            <Button aria-label={`Change ${row.name}`} onClick={() => setOpen(row)}>
              Change
            </Button>
          )}
        </Flex>
      ))}
      {open && <SayingPanel kind={kind} saying={open === "new" ? null : open} close={() => setOpen(null)} />}
    </Box>
  );
}
