/** What a remark is on: a network's version (or one profile's), and a field of it; nothing said: the whole post. */
export type RemarkTarget = { network: string; profile: number | null; field: string };
export const WHOLE_POST: RemarkTarget = { network: "", profile: null, field: "" };

/** A version that a remark can be on. */
export type Version = { network: string; profile: number | null; name: string };

export const FIELDS = [
  ["", "all of it"],
  ["text", "the text"],
  ["media", "the pictures"],
  ["link", "the link"],
  ["first_comment", "the first comment"],
  ["fields", "the network’s own fields"],
  ["time", "the time"],
] as const;
