import { Box, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { unfollowFeed, updateFeed } from "@/data/feeds";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { useForm } from "@/ui/useForm";
import { type Feed, useFeedAction } from "./queries";

/** A feed's title, how often it is read, whether it stands on the shelf; and leaving it. */
export function FeedForm({ feed, close }: { feed: Feed; close: () => void }) {
  const { brand } = useBrandContext();
  const form = useForm();
  const act = useFeedAction(brand.slug);
  const [title, setTitle] = useState(feed.title);
  const [shelved, setShelved] = useState(feed.shelved);
  const [every, setEvery] = useState(feed.interval_minutes);
  const [leaving, setLeaving] = useState(false);
  async function send(event: FormEvent) {
    event.preventDefault();
    const body = { title, shelved, interval_minutes: every };
    if (!(await form.send(() => updateFeed(brand.slug, feed.id, feed.revision, body)))) return;
    await act(async () => undefined, "Kept.");
    close();
  }
  async function leave() {
    const done = await act(
      () => unfollowFeed(brand.slug, feed.id),
      `${feed.title} is followed no more. What was posted of it stays.`,
    );
    if (done) close();
  }
  return (
    <SidePanel title={feed.title} open close={close}>
      <form onSubmit={send}>
        <Field
          label="Title"
          value={title}
          onChange={(e) => setTitle(e.currentTarget.value)}
          error={form.at("/title")}
        />
        <Field
          label="Read every so many minutes"
          type="number"
          min={15}
          max={1440}
          value={every}
          onChange={(e) => setEvery(Number(e.currentTarget.value))}
          error={form.at("/interval_minutes")}
        />
        <Tick checked={shelved} onChange={(e) => setShelved(e.target.checked)}>
          Its articles stand on the reading shelf
        </Tick>
        {form.loose("/title", "/interval_minutes") && (
          <Box role="alert" color="pimenton">
            {form.loose("/title", "/interval_minutes")}
          </Box>
        )}
        <Flex gap="10px" mt="14px" align="center">
          <Button kind="main" type="submit" disabled={form.busy}>
            Keep
          </Button>
          <Box flex="1" />
          {leaving ? (
            <>
              <Button kind="quiet" color="pimenton" onClick={() => void leave()}>
                Yes, with its {feed.articles} articles and its relays
              </Button>
              <Button kind="quiet" onClick={() => setLeaving(false)}>
                No
              </Button>
            </>
          ) : (
            <Button kind="quiet" onClick={() => setLeaving(true)}>
              Follow it no more
            </Button>
          )}
        </Flex>
      </form>
    </SidePanel>
  );
}
