import { Box, chakra, Flex } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { putAway } from "@/data/feeds";
import { RelaysHead } from "@/features/relays/RelaysHead";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Input } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { formatInstant } from "@/ui/times";
import { type Article, useFeedAction, useFeeds, useShelf } from "./queries";
import { ReminderForm } from "./ReminderForm";
import { SharePanel } from "./SharePanel";

/** The reading shelf: articles to share with a remark of one's own. */
export function ShelfPage() {
  const { brand, may } = useBrandContext();
  const search = useSearch({ from: "/$brand/relays/shelf" });
  const navigate = useNavigate({ from: "/$brand/relays/shelf" });
  const [page, setPage] = useState(1);
  const [chosen, setChosen] = useState<Article[]>([]);
  const [sharing, setSharing] = useState(false);
  const [reminding, setReminding] = useState(false);
  const feeds = useFeeds(brand.slug).data ?? [];
  const found = useShelf(brand.slug, search, page);
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const { articles, more, tags, reminder } = found.data;
  const narrow = (part: typeof search) => {
    setPage(1);
    void navigate({ search: (now) => ({ ...now, ...part }), replace: true });
  };
  const narrowed = Boolean(search.words || search.feed || search.tag);
  const toggle = (one: Article) =>
    setChosen(chosen.some((a) => a.id === one.id) ? chosen.filter((a) => a.id !== one.id) : [...chosen, one]);
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" maxW="1180px">
      <RelaysHead title="Reading shelf" about="Articles of the feeds, to share with a remark of your own.">
        <Button kind="quiet" onClick={() => setReminding(true)}>
          {reminder ? "Your reminder" : "Remind me"}
        </Button>
        {may("write") && (
          <Button kind="main" disabled={chosen.length === 0} onClick={() => setSharing(true)}>
            Share {chosen.length || ""}
          </Button>
        )}
      </RelaysHead>
      <Flex gap="10px" mb="12px" flexWrap="wrap" align="center">
        <Input
          aria-label="Words"
          placeholder="Words"
          w="200px"
          defaultValue={search.words ?? ""}
          onChange={(e) => narrow({ words: e.currentTarget.value.trim() || undefined })}
        />
        <Picker
          aria-label="Feed"
          w="200px"
          value={search.feed ?? ""}
          onChange={(e) => narrow({ feed: Number(e.currentTarget.value) || undefined })}
        >
          <option value="">every feed</option>
          {feeds.map((feed) => (
            <option key={feed.id} value={feed.id}>
              {feed.title}
            </option>
          ))}
        </Picker>
        <Picker
          aria-label="Category"
          w="180px"
          value={search.tag ?? ""}
          onChange={(e) => narrow({ tag: e.currentTarget.value || undefined })}
        >
          <option value="">every category</option>
          {[...new Set([...tags, ...(search.tag ? [search.tag] : [])])].map((tag) => (
            <option key={tag}>{tag}</option>
          ))}
        </Picker>
        {narrowed && (
          <Button kind="quiet" onClick={() => narrow({ words: undefined, feed: undefined, tag: undefined })}>
            Show all
          </Button>
        )}
      </Flex>
      {articles.length === 0 && (
        <EmptyState
          title={narrowed ? "Nothing like that on the shelf" : "The shelf is empty"}
          words={
            feeds.length
              ? "New articles of the feeds come here as they are read. Dead links are left out."
              : "Follow a feed first: its articles come here."
          }
        />
      )}
      {articles.map((one) => (
        <ArticleRow key={one.id} one={one} on={chosen.some((a) => a.id === one.id)} toggle={() => toggle(one)} />
      ))}
      <Flex gap="10px" mt="12px">
        {page > 1 && <Button onClick={() => setPage(page - 1)}>Newer</Button>}
        {more && <Button onClick={() => setPage(page + 1)}>Older</Button>}
      </Flex>
      {sharing && (
        <SharePanel
          articles={chosen}
          close={() => setSharing(false)}
          done={() => {
            setSharing(false);
            setChosen([]);
          }}
        />
      )}
      {reminding && <ReminderForm reminder={reminder} close={() => setReminding(false)} />}
    </Box>
  );
}

function ArticleRow({ one, on, toggle }: { one: Article; on: boolean; toggle: () => void }) {
  const { brand, me, may } = useBrandContext();
  const act = useFeedAction(brand.slug);
  return (
    <Flex gap="14px" py="10px" borderTopWidth="1px" borderColor="rule" align="flex-start" bg={on ? "wash" : undefined}>
      <chakra.label display="grid" placeItems="center" minW="28px" minH="28px" cursor="pointer">
        <input type="checkbox" checked={on} onChange={toggle} aria-label={`Choose ${one.title}`} />
      </chakra.label>
      {one.has_thumb ? (
        <Box asChild w="108px" h="72px" objectFit="cover" borderRadius="2px" flex="none">
          <img src={`/api/brands/${brand.slug}/articles/${one.id}/thumb`} alt="" loading="lazy" />
        </Box>
      ) : (
        <Box w="108px" flex="none" display={{ base: "none", md: "block" }} />
      )}
      <Box flex="1" minW="0">
        <Box fontFamily="heading" fontSize="17px" lineHeight="22px" overflowWrap="anywhere">
          <a href={one.link} target="_blank" rel="noreferrer noopener">
            {one.title}
          </a>
        </Box>
        <Box color="faded" fontSize="12px">
          {[
            one.from_feed,
            one.author,
            one.published_at && formatInstant(one.published_at, brand.zone, me.clock24),
            one.tags.join(", "),
          ]
            .filter(Boolean)
            .join(" · ")}
        </Box>
        <Box lineClamp={2} overflowWrap="anywhere">
          {one.summary}
        </Box>
      </Box>
      {may("write") && (
        <Button
          kind="quiet"
          aria-label={`Put away: ${one.title}`}
          onClick={() => void act(() => putAway(brand.slug, one.id), "Put away: it doesn’t come back.")}
        >
          Put away
        </Button>
      )}
    </Flex>
  );
}
