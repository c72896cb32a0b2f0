import { Box, Flex } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { takeDown, updateText } from "@/data/delivery";
import { duplicatePost } from "@/data/posts";
import { Button } from "@/ui/Button";
import { Confirm } from "@/ui/Confirm";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";

type Kept = { hashes?: Record<string, string>; changed_at?: string } | null;

/** What went out, kept as it was sent; and what can still be done with it at the network. */
export function SentContent({ page }: { page: Schemas["DeliveryPage"] }) {
  const { brand, me, may } = useBrandContext();
  const navigate = useNavigate();
  const changed = useChanged(brand.slug);
  const [sure, setSure] = useState(false);
  const [busy, setBusy] = useState(false);
  const { delivery } = page;
  if (!delivery.published_at) return null;
  const sent = delivery.sent_content as Kept;
  const at = (instant: string) => formatInstant(instant, brand.zone, me.clock24);
  const can = (what: string) => delivery.allowed_actions.includes(what);
  const ended = can("post_again");

  async function attempt(act: () => Promise<void>) {
    setBusy(true);
    try {
      await act();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    } finally {
      setBusy(false);
      setSure(false);
      await changed("delivery");
    }
  }
  return (
    <Box as="section" aria-label="Sent" borderTopWidth="1px" borderColor="rule" pt="10px" fontSize="13px">
      <Box>
        Went out {at(delivery.published_at)}
        {delivery.tries > 1 && `, at try ${delivery.tries}`}.
        {sent?.changed_at && ` Changed there ${at(sent.changed_at)}.`}
      </Box>
      {delivery.ends_at && delivery.state === "published" && (
        <Box color={ended ? "maizeInk" : "faded"} data-testid="life">
          {ended
            ? `It ended there by itself ${at(delivery.ends_at)}.`
            : `It ends there by itself ${at(delivery.ends_at)}.`}
        </Box>
      )}
      {sent?.hashes && Object.keys(sent.hashes).length > 0 && (
        <Box asChild mt="4px" color="faded">
          <details>
            <summary>Hashes of what was sent (SHA-256)</summary>
            {Object.entries(sent.hashes).map(([asset, hash]) => (
              <Box key={asset} fontFamily="mono" fontSize="11px" overflowWrap="anywhere">
                {hash}
              </Box>
            ))}
          </details>
        </Box>
      )}
      <Flex gap="8px" mt="8px" flexWrap="wrap">
        {can("update_there") && may("publish") && (
          <Button
            disabled={busy}
            onClick={() =>
              void attempt(async () => {
                await updateText(brand.slug, delivery.id, delivery.revision);
                toast("The text there is the present one now.");
              })
            }
          >
            Bring its text up to date there
          </Button>
        )}
        {ended && may("write") && (
          <Button
            disabled={busy}
            onClick={() =>
              void attempt(async () => {
                const made = await duplicatePost(brand.slug, page.post, { times: false });
                await navigate({
                  to: "/$brand/bench/$post",
                  params: { brand: brand.slug, post: String(made.id) },
                  search: {},
                });
              })
            }
          >
            Post again
          </Button>
        )}
        {can("take_down") && may("delete") && (
          <Button disabled={busy} onClick={() => setSure(true)}>
            Take down
          </Button>
        )}
        <Confirm
          title="Take down"
          open={sure}
          leave="Leave it"
          go="Take it down"
          busy={busy}
          close={() => setSure(false)}
          act={() =>
            void attempt(async () => {
              await takeDown(brand.slug, delivery.id, delivery.revision);
              toast("Taken down.");
            })
          }
        >
          It disappears at the network, with its comments and reactions; that can’t be undone. What was sent is kept
          here.
        </Confirm>
      </Flex>
    </Box>
  );
}
