import { Flex } from "@chakra-ui/react";
import { Picker } from "@/ui/Select";
import { FIELDS, type RemarkTarget, type Version } from "./target";

type Props = { versions: Version[]; on: RemarkTarget; change: (on: RemarkTarget) => void };

/** What a remark is on: which version, and which part of it. */
export function TargetPicker({ versions, on, change }: Props) {
  const at = versions.findIndex((v) => v.network === on.network && v.profile === on.profile);
  return (
    <Flex gap="8px" flexWrap="wrap">
      <Picker
        aria-label="On which version"
        w="auto"
        value={at}
        onChange={(e) => {
          const version = versions[Number(e.currentTarget.value)];
          change({ ...on, network: version?.network ?? "", profile: version?.profile ?? null });
        }}
      >
        <option value={-1}>the whole post</option>
        {versions.map((version, n) => (
          <option key={`${version.network}/${version.profile}`} value={n}>
            {version.name}
          </option>
        ))}
      </Picker>
      <Picker
        aria-label="On which part"
        w="auto"
        value={on.field}
        onChange={(e) => change({ ...on, field: e.currentTarget.value })}
      >
        {FIELDS.map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </Picker>
    </Flex>
  );
}
