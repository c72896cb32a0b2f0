import { Box, Flex } from "@chakra-ui/react";
import type { Profile } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useSayings } from "@/features/posts/queries";
import { useNetworks } from "@/features/profiles/queries";
import { Field } from "@/ui/Field";
import { Select } from "@/ui/Select";
import { Tick } from "@/ui/Tick";
import { Part } from "./Part";
import type { Row } from "./queries";
import type { Draft } from "./settings";

type Props = {
  data: Draft;
  set: (part: Partial<Draft>) => void;
  target: Profile;
  kind: Row["kind"];
  at: (pointer: string) => string | undefined;
};

/** What an item becomes: its media, what is mended to the network's rules, the network's own fields. */
export function AdaptationFields({ data, set, target, kind, at }: Props) {
  const { adaptation: shape } = data;
  const change = (part: Partial<Draft["adaptation"]>) => set({ adaptation: { ...shape, ...part } });
  const { brand } = useBrandContext();
  const presets = useSayings(brand.slug).data?.link_tags ?? [];
  const network = useNetworks().get(target.network);
  const own =
    network?.fields.filter((one) => one.type === "text" || one.type === "choice" || one.type === "address") ?? [];
  return (
    <Part title="Becomes">
      <Flex gap="12px 20px" flexWrap="wrap" align="flex-end">
        <Box w="220px">
          <Select
            label={kind === "catalogue" ? "Its banner picture" : "Its pictures and videos"}
            value={shape.take}
            onChange={(e) => change({ take: e.currentTarget.value as Draft["adaptation"]["take"] })}
          >
            <option value="all">{kind === "catalogue" ? "goes along" : "all go along"}</option>
            {kind !== "catalogue" && <option value="first">the first goes along</option>}
            <option value="none">{kind === "catalogue" ? "stays away" : "none go along"}</option>
          </Select>
        </Box>
        {presets.length > 0 && (
          <Box w="200px">
            <Select
              label="Link tags"
              value={data.link_tags ?? 0}
              error={at("/link_tags")}
              onChange={(e) => set({ link_tags: Number(e.currentTarget.value) || null })}
            >
              <option value={0}>none</option>
              {presets.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Select>
          </Box>
        )}
        <Box mb="14px">
          <Tick checked={shape.link} onChange={(e) => change({ link: e.target.checked })}>
            with its link
          </Tick>
        </Box>
      </Flex>
      <Field
        label="Where it links to when it has no link of its own ({address}: where it appeared)"
        value={shape.link_to}
        onChange={(e) => change({ link_to: e.currentTarget.value })}
        error={at("/adaptation/link_to")}
      />
      <Tick checked={shape.adapts} onChange={(e) => change({ adapts: e.target.checked })}>
        Fit it to {network?.name ?? "the network"}: shorten, crop, fewer hashtags
      </Tick>
      {network?.takes_comment && (
        <Tick checked={shape.tags_below} onChange={(e) => change({ tags_below: e.target.checked })}>
          Hashtags go to the first comment
        </Tick>
      )}
      {own.length > 0 && (
        <Box display="grid" gridTemplateColumns={{ base: "1fr", md: "1fr 1fr" }} columnGap="16px" mt="8px">
          {own.map((one) => (
            <Field
              key={one.name}
              label={`${one.label}${one.required ? " (needed)" : ""}`}
              value={shape.fields[one.name] ?? ""}
              placeholder={one.choices.length ? one.choices.join(", ") : undefined}
              onChange={(e) => change({ fields: { ...shape.fields, [one.name]: e.currentTarget.value } })}
              error={at(`/adaptation/fields/${one.name}`)}
            />
          ))}
        </Box>
      )}
    </Part>
  );
}
