import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { describeAsset } from "@/data/library";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { SidePanel } from "@/ui/SidePanel";
import { TextArea } from "@/ui/TextArea";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { type Asset, formatBytes, useUses } from "./queries";

/** One picture or video: what it shows, what is said with it, and where it is used. */
export function AssetPanel({ id, asset, close }: { id: number; asset: Asset | undefined; close: () => void }) {
  if (!asset) return null;
  return (
    <SidePanel title={asset.name} open close={close}>
      <About key={id} asset={asset} close={close} />
    </SidePanel>
  );
}

function About({ asset, close }: { asset: Asset; close: () => void }) {
  const { brand, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const uses = useUses(brand.slug, asset.id);
  const [values, setValues] = useState({
    name: asset.name,
    alt: asset.alt,
    caption: asset.caption,
    credit: asset.credit,
    labels: asset.labels.join(", "),
  });
  const set = (part: keyof typeof values) => (e: { currentTarget: { value: string } }) =>
    setValues({ ...values, [part]: e.currentTarget.value });
  const writes = may("write");

  async function keep(event: FormEvent) {
    event.preventDefault();
    const labels = values.labels.split(",").map((label) => label.trim());
    const kept = await form.send(() =>
      describeAsset(brand.slug, asset.id, { ...values, labels: labels.filter(Boolean) }),
    );
    if (!kept) return;
    await changed("asset");
    toast("Kept, wherever it is used.");
    close();
  }
  return (
    <>
      {asset.kind === "video" ? (
        // biome-ignore lint/a11y/useMediaCaption: captions are the network's; the alt text says what it shows
        <video
          src={`/media/${brand.slug}/${asset.id}/whole`}
          poster={`/media/${brand.slug}/${asset.id}/thumb`}
          controls
          preload="none"
          style={{ width: "100%", maxHeight: 320 }}
          aria-label={asset.alt || asset.name}
        />
      ) : (
        <img
          src={`/media/${brand.slug}/${asset.id}/shown?w=900`}
          alt={asset.alt}
          style={{ maxWidth: "100%", maxHeight: 320 }}
        />
      )}
      <Box color="faded" fontSize="12px" my="8px" fontVariantNumeric="tabular-nums">
        {asset.format.toUpperCase()}
        {asset.codec && ` (${asset.codec})`} · {asset.width} × {asset.height} · {formatBytes(asset.size)}
        {asset.seconds !== null && ` · ${asset.seconds.toFixed(1)} s`}
      </Box>
      <chakra.form onSubmit={keep}>
        <chakra.fieldset disabled={!writes}>
          <Field label="Name" value={values.name} onChange={set("name")} error={form.at("/name")} maxLength={200} />
          <TextArea label="Alt text" rows={2} value={values.alt} onChange={set("alt")} error={form.at("/alt")} />
          <TextArea
            label="Caption"
            hint="What is said with it. Three low lines are a blank to fill in."
            rows={3}
            value={values.caption}
            onChange={set("caption")}
            error={form.at("/caption")}
          />
          <Field
            label="Labels, with commas between"
            value={values.labels}
            onChange={set("labels")}
            error={form.problem?.faults.find((f) => f.pointer.startsWith("/labels"))?.detail}
          />
          <Field
            label="Credit"
            value={values.credit}
            onChange={set("credit")}
            error={form.at("/credit")}
            maxLength={200}
          />
        </chakra.fieldset>
        {writes && (
          <Flex gap="8px">
            <Button kind="main" type="submit" disabled={form.busy}>
              Keep
            </Button>
            <Button asChild>
              <a href={`/media/${brand.slug}/${asset.id}/whole`} download={asset.name}>
                Download
              </a>
            </Button>
          </Flex>
        )}
      </chakra.form>
      <Box as="h3" fontSize="16px" mt="18px" mb="6px">
        Where it is used
      </Box>
      {uses.data?.length === 0 && <Box color="faded">In no post yet.</Box>}
      {uses.data?.map((use) => (
        <Box key={use.post} borderTopWidth="1px" borderColor="rule" py="6px">
          <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: String(use.post) }} search={{}}>
            <chakra.span textDecoration="underline">{use.title || use.excerpt.slice(0, 80) || "A post"}</chakra.span>
          </Link>
        </Box>
      ))}
    </>
  );
}
