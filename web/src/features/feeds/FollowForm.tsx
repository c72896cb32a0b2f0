import { Box, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { findFeeds, followFeed } from "@/data/feeds";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { useForm } from "@/ui/useForm";
import { useFeedAction } from "./queries";

/** An address, the feeds that it leads to, and following one of them. */
export function FollowForm({ close }: { close: () => void }) {
  const { brand } = useBrandContext();
  const form = useForm();
  const act = useFeedAction(brand.slug);
  const [address, setAddress] = useState("");
  const [offers, setOffers] = useState<Schemas["FeedOffer"][] | null>(null);
  async function look(event: FormEvent) {
    event.preventDefault();
    setOffers(null);
    await form.send(async () => {
      setOffers(await findFeeds(brand.slug, { address }));
    });
  }
  async function follow(offer: Schemas["FeedOffer"]) {
    const body = { address: offer.address, title: offer.title.slice(0, 200), shelved: true, interval_minutes: 60 };
    const fine = await form.send(() => followFeed(brand.slug, body));
    if (!fine) return;
    await act(async () => undefined, `${offer.title} is followed. What stands in it now counts as old.`);
    close();
  }
  return (
    <SidePanel title="Follow a feed" open close={close}>
      <form onSubmit={look}>
        <Field
          label="Address of the feed, or of its site"
          value={address}
          onChange={(e) => setAddress(e.currentTarget.value)}
          error={form.at("/address") ?? form.loose()}
          placeholder="https://"
          autoFocus
        />
        <Button kind={offers ? "plain" : "main"} type="submit" disabled={form.busy || !address.trim()}>
          Look there
        </Button>
      </form>
      {offers?.map((offer) => (
        <Box key={offer.address} borderTopWidth="1px" borderColor="rule" py="10px" mt="12px">
          <b>{offer.title}</b>
          <Box color="faded" fontSize="12px" overflowWrap="anywhere">
            {offer.address}
          </Box>
          <Box my="6px">
            {offer.entries} {offer.entries === 1 ? "entry" : "entries"}
            {offer.latest.length > 0 && `, the latest: ${offer.latest.join("; ")}`}
          </Box>
          <Flex>
            <Button kind="main" disabled={form.busy} onClick={() => void follow(offer)}>
              Follow it
            </Button>
          </Flex>
        </Box>
      ))}
    </SidePanel>
  );
}
