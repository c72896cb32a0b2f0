import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import type { Asset } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { postponeByHand, reportNotPublished, reportPublished } from "@/data/delivery";
import { postQueries } from "@/data/posts";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape, stateWords } from "@/ui/StateShape";
import { formatWallTime, formatZone } from "@/ui/times";
import { toast } from "@/ui/toasts";
import { HandAnswer } from "./HandAnswer";
import { useNetworks } from "./queries";

/** For a phone: publish one post by hand, with everything ready, and say that it is done. */
export function ByHandPage() {
  const { brand, me } = useBrandContext();
  const { delivery: param } = useParams({ from: "/$brand/by-hand/$delivery" });
  const id = Number(param) || 0;
  const changed = useChanged(brand.slug);
  const networks = useNetworks();
  const page = useQuery(postQueries.delivery(brand.slug, id));
  if (page.error && !page.data) return <QueryFailed error={page.error} again={() => page.refetch()} />;
  if (!page.data) return <Loading />;
  const { delivery, text, media, link, fields } = page.data;
  const network = networks.get(page.data.network);

  async function after(act: () => Promise<unknown>, words: string) {
    await act();
    toast(words);
    await changed("delivery");
  }
  return (
    <Box w="100%" maxW="560px" mx="auto" p="16px 16px 60px">
      <Flex gap="10px" align="center">
        {network && <NetworkTile letters={network.letters} shape={network.shape} size={32} />}
        <Box minW="0" flex="1">
          <Box as="h1" fontSize="22px" lineHeight="26px" overflowWrap="anywhere">
            {page.data.handle}
          </Box>
          <Box color="faded" fontSize="13px">
            {network?.name} ·{" "}
            {delivery.wall_time && `${formatWallTime(delivery.wall_time, me.clock24)}, ${formatZone(delivery.zone)}`}
          </Box>
        </Box>
      </Flex>
      <Flex align="center" gap="8px" fontWeight="600" my="12px" data-testid="hand-state">
        <StateShape state={delivery.state} size={15} /> {stateWords(delivery.state)}
      </Flex>
      {delivery.state === "waiting_for_hand" && (
        <Box color="faded" mb="14px">
          Copy the text, save the media, publish them at {network?.name ?? "the place"}, and say here that it is done.
        </Box>
      )}
      {page.data.waits && (
        <Box role="status" borderWidth="1px" borderColor="rule" bg="card" p="12px" mb="14px" data-testid="hand-waits">
          {page.data.waits}
        </Box>
      )}
      {!page.data.waits && (
        <>
          {text && <CopyText label="Text" text={text} />}
          {link && <CopyText label="Link" text={link} />}
          {page.data.first_comment && <CopyText label="First comment" text={page.data.first_comment} />}
          {fields.map((field) => (
            <CopyText key={field.label} label={field.label} text={field.value} />
          ))}
          {media.map((asset, n) => (
            <Medium
              key={asset.id}
              brand={brand.slug}
              delivery={id}
              asset={asset}
              number={media.length > 1 ? n + 1 : 0}
            />
          ))}
        </>
      )}
      {page.data.profile_url && !page.data.waits && (
        <Button asChild w="100%" minH="44px" mb="18px">
          <a href={page.data.profile_url} target="_blank" rel="noreferrer">
            Open {network && !network.plain && !network.is_custom ? network.name : page.data.handle}
          </a>
        </Button>
      )}
      {delivery.state === "waiting_for_hand" ? (
        <HandAnswer
          zone={brand.zone}
          done={(url) =>
            after(() => reportPublished(brand.slug, id, delivery.revision, { url }), "Done. It counts as published.")
          }
          notDone={(why) =>
            after(
              () => reportNotPublished(brand.slug, id, delivery.revision, { reason: why }),
              "Called off. The reason is kept with it.",
            )
          }
          later={(wall) =>
            after(
              () => postponeByHand(brand.slug, id, delivery.revision, { wall_time: wall }),
              "Put off. You are told again then.",
            )
          }
        />
      ) : (
        <Box borderTopWidth="1px" borderColor="rule" pt="12px">
          {delivery.reason && <Box mb="8px">{delivery.reason}</Box>}
          {delivery.remote_url && (
            <Box mb="8px">
              <a
                href={delivery.remote_url}
                target="_blank"
                rel="noreferrer"
                style={{ textDecoration: "underline", overflowWrap: "anywhere" }}
              >
                {delivery.remote_url}
              </a>
            </Box>
          )}
          <Link
            to="/$brand/calendar"
            params={{ brand: brand.slug }}
            search={{ open: id }}
            style={{ textDecoration: "underline" }}
          >
            See it on the calendar
          </Link>
        </Box>
      )}
    </Box>
  );
}

function CopyText({ label, text }: { label: string; text: string }) {
  async function copy() {
    await navigator.clipboard.writeText(text);
    toast(`${label} copied.`);
  }
  return (
    <Box mb="16px">
      <Flex align="center" justify="space-between" mb="4px">
        <Box as="h2" fontSize="15px">
          {label}
        </Box>
        <Button kind="main" minH="44px" px="18px" onClick={() => void copy()}>
          Copy the {label.toLowerCase()}
        </Button>
      </Flex>
      <Box
        whiteSpace="pre-wrap"
        overflowWrap="anywhere"
        bg="card"
        borderWidth="1px"
        borderColor="rule"
        p="12px"
        data-testid={`hand-${label.toLowerCase()}`}
      >
        {text}
      </Box>
    </Box>
  );
}

type MediumProps = { brand: string; delivery: number; asset: Asset; number: number };

function Medium({ brand, delivery, asset, number }: MediumProps) {
  async function copyAlt() {
    await navigator.clipboard.writeText(asset.alt);
    toast("Alt text copied.");
  }
  return (
    <Flex gap="12px" mb="16px" align="flex-start" bg="card" borderWidth="1px" borderColor="rule" p="10px">
      <Box asChild w="96px" flex="none" borderRadius="2px">
        <img src={`/media/${brand}/${asset.id}/thumb`} alt={asset.alt} />
      </Box>
      <Box minW="0" flex="1">
        <Box color="faded" fontSize="12px" mb="6px">
          {number > 0 && `${number}. `}
          {asset.width} × {asset.height}
          {asset.alt && ` · ${asset.alt}`}
        </Box>
        <Flex gap="8px" flexWrap="wrap">
          <Button asChild minH="40px">
            <a href={`/media/${brand}/${asset.id}/sent?delivery=${delivery}`} download={asset.name}>
              Download
            </a>
          </Button>
          {asset.alt && (
            <Button minH="40px" onClick={() => void copyAlt()}>
              Copy its alt text
            </Button>
          )}
        </Flex>
      </Box>
    </Flex>
  );
}
