import { useQuery } from "@tanstack/react-query";
import type { CompactEmoji } from "emojibase";
import { ownKey } from "@/data/keys";
import type { Insert } from "./usePalette";

const RECENT = "menudo-recent-emoji";
const TONE = "menudo-emoji-tone";
const MOST_RECENT = 16;
const MOST = 6;

/** The emoji last used, newest first. */
export function recentEmoji(): string[] {
  try {
    return JSON.parse(localStorage.getItem(RECENT) ?? "[]");
  } catch {
    return [];
  }
}

export function recordEmoji(emoji: string): void {
  localStorage.setItem(
    RECENT,
    JSON.stringify([emoji, ...recentEmoji().filter((e) => e !== emoji)].slice(0, MOST_RECENT)),
  );
}

export type Tone = "none" | "light" | "medium-light" | "medium" | "medium-dark" | "dark";
const TONES: Tone[] = ["none", "light", "medium-light", "medium", "medium-dark", "dark"];

export const emojiTone = (): Tone => (localStorage.getItem(TONE) as Tone | null) ?? "none";
export const saveTone = (tone: Tone) => localStorage.setItem(TONE, tone);

function toned(emoji: CompactEmoji): string {
  const tone = TONES.indexOf(emojiTone());
  return (tone > 0 && emoji.skins?.[tone - 1]?.unicode) || emoji.unicode;
}

/** Emoji by the words of their names; without words, those last used. */
export function useEmoji(words: string): Insert[] {
  const all = useQuery({
    queryKey: ownKey("emoji"),
    queryFn: async () => (await import("emojibase-data/en/compact.json")).default as CompactEmoji[],
    staleTime: Number.POSITIVE_INFINITY,
  }).data;
  const insert = (emoji: string, about: string): Insert => ({
    key: `e${emoji}`,
    shown: `${emoji} ${about}`,
    about: "emoji",
    text: emoji,
  });
  if (!words)
    return recentEmoji()
      .slice(0, MOST)
      .map((emoji) => insert(emoji, "used of late"));
  const wanted = words.toLowerCase();
  const weight = (e: CompactEmoji) =>
    e.label.startsWith(wanted) ? 0 : e.label.split(/\s/).some((w) => w.startsWith(wanted)) ? 1 : 2;
  return (all ?? [])
    .filter((e) => weight(e) < 2 || e.tags?.some((tag) => tag.startsWith(wanted)))
    .sort((a, b) => weight(a) - weight(b))
    .slice(0, MOST)
    .map((e) => insert(toned(e), e.label));
}
