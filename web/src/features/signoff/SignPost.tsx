import { Box, chakra, Flex } from "@chakra-ui/react";
import type { Network } from "@/api/client";
import { Diff } from "@/features/posts/cells/Diff";
import { ProofCell } from "@/features/posts/proof/ProofCell";
import { NetworkTile } from "@/ui/NetworkTile";
import { formatBothClocks, formatWallTime, formatZoneCity } from "@/ui/times";
import type { PendingColumn, PendingPost } from "./deck";

type Props = {
  post: PendingPost;
  place: string;
  networks: Network[];
  at: number;
  setAt: (at: number) => void;
  clock24: boolean;
};

/** One post that waits: when it goes out, each network's proof, what has changed since it was agreed to, and the talk. */
export function SignPost({ post, place, networks, at, setAt, clock24 }: Props) {
  const column = post.columns[at];
  const network = networks.find((n) => n.network === column?.network);
  return (
    <article>
      <Flex align="baseline" gap="12px">
        <Box as="h1" fontSize="22px" lineHeight="28px" flex="1" overflowWrap="anywhere">
          {post.title || post.headline || "A post without words"}
        </Box>
        <Box color="faded" whiteSpace="nowrap">
          {place}
        </Box>
      </Flex>
      <Box color="faded" mb="12px">
        {post.first_due && column?.when[0]?.wall_time
          ? `${formatBothClocks(column.when[0].wall_time)} in ${formatZoneCity(column.when[0].zone)}`
          : "No time is set yet"}
        {post.author && ` · written by ${post.author}`}
        {(post.late || post.missed) && (
          <Box as="span" color="pimenton" fontWeight="600">
            {" "}
            ·{" "}
            {post.missed
              ? "its time has passed: once signed off, it is to be planned again"
              : "should have been answered by now"}
          </Box>
        )}
      </Box>
      {post.columns.length > 0 && (
        <Flex role="tablist" aria-label="Networks" gap="8px" mb="12px" overflowX="auto">
          {post.columns.map((one, n) => {
            const its = networks.find((found) => found.network === one.network);
            return (
              <chakra.button
                key={`${one.network}${one.profile}${one.mine}`}
                type="button"
                role="tab"
                aria-selected={n === at}
                onClick={() => setAt(n)}
                display="flex"
                alignItems="center"
                gap="6px"
                minH="36px"
                px="8px"
                bg="card"
                borderWidth="1px"
                borderBottomWidth={n === at ? "3px" : "1px"}
                borderColor={n === at ? "ink" : "rule"}
                borderRadius="3px"
                whiteSpace="nowrap"
                cursor="pointer"
              >
                {its && <NetworkTile letters={its.letters} shape={its.shape} size={22} />}
                {one.profile === null ? one.name : one.when[0]?.handle}
                {one.differs && (
                  <Box as="span" color="maizeInk" fontSize="12px">
                    changed
                  </Box>
                )}
              </chakra.button>
            );
          })}
        </Flex>
      )}
      {column && <Whither column={column} clock24={clock24} />}
      {column && network && (
        <ProofCell
          column={column.column}
          network={network}
          full
          profiles={column.when.map((w) => ({ id: w.profile, handle: w.handle, name: w.name }))}
        />
      )}
      {column?.differs && (
        <Box mt="12px" p="8px 12px" borderLeft="3px solid" borderColor="maize" bg="wash" data-testid="differs">
          <Box fontWeight="600" mb="4px">
            Changed since it was agreed to
            {column.parts.length > 0 && `: also ${column.parts.join(", ")}`}
          </Box>
          <Diff segments={column.differs} />
        </Box>
      )}
      {post.remarks.length > 0 && (
        <Box as="section" aria-label="Remarks" mt="16px">
          {post.remarks.map((remark) => (
            <Box key={remark.id} mb="10px">
              <b>{remark.name}</b>{" "}
              <Box as="span" color="faded">
                {remark.network && `on ${networks.find((n) => n.network === remark.network)?.name ?? remark.network}`}
              </Box>
              <Box whiteSpace="pre-wrap" overflowWrap="anywhere">
                {remark.text}
              </Box>
            </Box>
          ))}
        </Box>
      )}
    </article>
  );
}

/** Where a version goes, when it goes to more than one profile or at more than one time. */
function Whither({ column, clock24 }: { column: PendingColumn; clock24: boolean }) {
  if (column.when.length < 2) return null;
  return (
    <Box color="faded" fontSize="12.5px" lineHeight="18px" mb="8px">
      {column.when
        .map((one) => `${one.handle}${one.wall_time ? ` ${formatWallTime(one.wall_time, clock24)}` : ""}`)
        .join(" · ")}
    </Box>
  );
}
