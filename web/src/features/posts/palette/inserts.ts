import { useMemo } from "react";
import { useBrandContext } from "@/app/brandContext";
import { insertTags } from "@/data/posts";
import { useProfiles } from "@/features/profiles/queries";
import { toast } from "@/ui/toasts";
import { withMaster } from "../draft";
import { usePlace } from "../place";
import { useSayings } from "../queries";
import { useEmoji } from "./emoji";
import type { Insert } from "./usePalette";

const PLACEHOLDERS: [string, string][] = [
  ["brand", "the brand's name"],
  ["link", "the post's link"],
  ["profile", "the profile's handle"],
  ["network", "the network's name"],
  ["title", "the post's title"],
  ["date", "the day it goes out"],
  ["day", "its weekday"],
  ["month", "its month"],
  ["year", "its year"],
];

/** Everything that can be inserted and begins like `words` (or has a word that does). */
export function useInserts(words: string, network: string | undefined): Insert[] {
  const { brand } = useBrandContext();
  const sayings = useSayings(brand.slug).data;
  const profiles = useProfiles(brand.slug).data;
  const emoji = useEmoji(words);
  const { change } = usePlace();
  return useMemo(() => {
    const wanted = words.toLowerCase();
    const fits = (text: string) => {
      const name = text.toLowerCase();
      // From any word's start on, over what stands between words.
      return [...name.matchAll(/(?<![\p{L}\p{N}])[\p{L}\p{N}]/gu)].some((at) => name.startsWith(wanted, at.index));
    };
    const snippets = (sayings?.snippets ?? []).map((s) => ({
      key: `s${s.id}`,
      shown: s.name,
      about: "snippet",
      text: s.text,
    }));
    const sets = (sayings?.tag_sets ?? []).map((s) => ({
      key: `t${s.id}`,
      shown: `#${s.name}`,
      about: `tag set · ${s.tags.length} ${s.tags.length === 1 ? "tag" : "tags"}`,
      whole: async (text: string) => {
        const body = { text, tags: s.tags };
        return (await insertTags(brand.slug, body)).text;
      },
    }));
    const placeholders = PLACEHOLDERS.map(([name, about]) => ({
      key: `p${name}`,
      shown: `{${name}}`,
      about: `placeholder · ${about}`,
      text: `{${name}}`,
    }));
    const tags = (sayings?.link_tags ?? []).map((s) => ({
      key: `l${s.id}`,
      shown: s.name,
      about: "link tags",
      act: () => {
        change((d) => withMaster(d, { link_tags: s.id }));
        toast(`Links are tagged with “${s.name}”.`);
      },
    }));
    const mentions = (profiles ?? [])
      .filter((p) => p.handle.startsWith("@") && (!network || p.network === network))
      .map((p) => ({ key: `m${p.id}`, shown: p.handle, about: "mention", text: p.handle }));
    const named: Insert[] = [...sets, ...snippets, ...placeholders, ...tags, ...mentions].filter((i) => fits(i.shown));
    return [...named, ...emoji];
  }, [words, network, sayings, profiles, emoji, brand.slug, change]);
}
