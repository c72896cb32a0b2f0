import { Box, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { importOpml, pollFeed } from "@/data/feeds";
import { RelaysHead } from "@/features/relays/RelaysHead";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { FileButton } from "@/ui/FileButton";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { FeedForm } from "./FeedForm";
import { FollowForm } from "./FollowForm";
import { type Feed, useFeedAction, useFeeds } from "./queries";

/** The feeds that the brand follows. */
export function FeedsPage() {
  const { brand, may } = useBrandContext();
  const found = useFeeds(brand.slug);
  const act = useFeedAction(brand.slug);
  const [adding, setAdding] = useState(false);
  const [left, setLeft] = useState<string[]>([]);
  const [changing, setChanging] = useState<Feed | null>(null);
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  async function bring(file: File | undefined) {
    if (!file) return;
    const done = await act(() => importOpml(brand.slug, { file }));
    if (!done) return;
    const { feeds, left } = done.came;
    setLeft([
      feeds === 1
        ? "1 feed is followed from it, and read soon."
        : `${feeds} feeds are followed from it, and read soon.`,
      ...left,
    ]);
  }
  const follow = may("write") && (
    <Button kind="main" onClick={() => setAdding(true)}>
      Follow a feed
    </Button>
  );
  return (
    <Box px={{ base: "12px", md: "24px" }} py="12px" w="100%" maxW="1180px">
      <RelaysHead
        title="Feeds"
        about="What others publish, read politely. Their articles stand on the shelf, and relays carry them."
      >
        {may("write") && (
          <FileButton accept=".opml,.xml,text/xml,text/x-opml" pick={(files) => void bring(files[0])}>
            Bring OPML in
          </FileButton>
        )}
        {found.data.length > 0 && (
          <>
            <Button asChild>
              <a href={`/api/brands/${brand.slug}/feeds/opml`} download="feeds.opml">
                Take OPML out
              </a>
            </Button>
            {follow}
          </>
        )}
      </RelaysHead>
      <Box role="status">
        {left.map((words) => (
          <Box key={words} mb="4px">
            {words}
          </Box>
        ))}
      </Box>
      {found.data.length === 0 && (
        <EmptyState
          title="No feed yet"
          words="Follow a feed by its own address, or by that of its site: Menudo finds it. What stands in it now counts as old."
        >
          {follow}
        </EmptyState>
      )}
      {found.data.map((feed) => (
        <FeedRow key={feed.id} feed={feed} change={() => setChanging(feed)} />
      ))}
      {adding && <FollowForm close={() => setAdding(false)} />}
      {changing && <FeedForm feed={changing} close={() => setChanging(null)} />}
    </Box>
  );
}

function FeedRow({ feed, change }: { feed: Feed; change: () => void }) {
  const { brand, me, may } = useBrandContext();
  const act = useFeedAction(brand.slug);
  return (
    <Flex gap="14px" py="10px" borderTopWidth="1px" borderColor="rule" align="baseline" flexWrap="wrap">
      <Box flex="1" minW="260px">
        <b>{feed.title}</b>
        <Box color="faded" fontSize="12px" overflowWrap="anywhere">
          {feed.address}
        </Box>
        {feed.last_error && (
          <Flex gap="6px" color="pimenton" align="baseline" role="status">
            <StateShape state="in_trouble" size={12} /> {feed.last_error}
          </Flex>
        )}
      </Box>
      <Box w="170px" color="faded">
        {feed.shelved ? (
          <Link
            to="/$brand/relays/shelf"
            params={{ brand: brand.slug }}
            search={{ feed: feed.id }}
            style={{ textDecoration: "underline" }}
          >
            {feed.articles} articles
          </Link>
        ) : (
          `${feed.articles} articles, off the shelf`
        )}
        <Box>{feed.new_articles} fresh</Box>
      </Box>
      <Box w="230px" color="faded" fontSize="12px">
        {feed.read_at ? `Read ${formatInstant(feed.read_at, brand.zone, me.clock24)}` : "Not read yet"}
        <Box>
          {feed.is_gone
            ? "Read no more"
            : feed.next_at && `Again ${formatInstant(feed.next_at, brand.zone, me.clock24)}`}
        </Box>
      </Box>
      {may("write") && (
        <Flex gap="8px">
          <Button
            kind="quiet"
            aria-label={`Read it now: ${feed.title}`}
            onClick={() => void act(() => pollFeed(brand.slug, feed.id), "It is being read.")}
          >
            Read it now
          </Button>
          <Button aria-label={`Settings of ${feed.title}`} onClick={change}>
            Settings
          </Button>
        </Flex>
      )}
    </Flex>
  );
}
