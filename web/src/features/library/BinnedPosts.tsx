import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useHere } from "@/app/useHere";
import { useChanged } from "@/data/changes";
import { postQueries, restorePost } from "@/data/posts";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";

/** Posts in the bin, and the way out of it. */
export function BinnedPosts() {
  const { brand, me, may } = useBrandContext();
  const changed = useChanged(brand.slug);
  const navigate = useNavigate();
  const here = useHere();
  const found = useQuery(postQueries.bin(brand.slug));
  async function restore(id: number) {
    const from = here();
    try {
      await restorePost(brand.slug, id);
      await changed("post");
      toast("Out of the bin: it waits in the tray.");
      if (here() === from)
        void navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: String(id) }, search: {} });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  if (found.error) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  if (found.data.length === 0)
    return (
      <EmptyState
        title="No post is in the bin."
        words="A post that is put in the bin can be taken out again for 30 days."
      />
    );
  return (
    <Box maxW="860px">
      {found.data.map((post) => (
        <Flex key={post.id} borderTopWidth="1px" borderColor="rule" py="10px" gap="14px" align="center" flexWrap="wrap">
          <Box flex="1" minW="220px">
            <b>{post.title || post.headline || "No words"}</b>
            <Box color="faded" fontSize="13px">
              by {post.author || "somebody who has left"}; binned{" "}
              {formatInstant(post.deleted_at, brand.zone, me.clock24)}, deleted for good{" "}
              {formatInstant(post.purged_at, brand.zone, me.clock24)}
            </Box>
          </Box>
          {may("write") && (
            <Button aria-label={`Take out: ${post.title || post.headline}`} onClick={() => void restore(post.id)}>
              Take it out
            </Button>
          )}
        </Flex>
      ))}
    </Box>
  );
}
