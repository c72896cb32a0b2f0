import { Box, Flex } from "@chakra-ui/react";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { api, got, Problem } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Empty } from "@/ui/Empty";
import { Failed } from "@/ui/Failed";
import { Loading } from "@/ui/Loading";
import { say } from "@/ui/notices";
import { instantWords } from "@/ui/times";

/** Posts in the bin, and the way out of it. */
export function BinnedPosts() {
  const { brand, me, may } = useHere();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const path = { brand: brand.slug };
  const found = useQuery({
    queryKey: ["post", brand.slug, "bin"],
    queryFn: () => got(api.GET("/api/brands/{brand}/bin", { params: { path } })),
  });
  async function restore(id: number) {
    try {
      await got(api.POST("/api/brands/{brand}/posts/{id}/restore", { params: { path: { ...path, id } } }));
      await queries.invalidateQueries({ queryKey: ["post", brand.slug] });
      await queries.invalidateQueries({ queryKey: ["calendar", brand.slug] });
      say("Out of the bin: it waits in the tray.");
      void navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: String(id) }, search: {} });
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say(error.message, { wrong: true });
    }
  }
  if (found.error) return <Failed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  if (found.data.length === 0)
    return (
      <Empty title="No post is in the bin." words="A post that is put in the bin can be taken out again for 30 days." />
    );
  return (
    <Box maxW="860px">
      {found.data.map((post) => (
        <Flex key={post.id} borderTopWidth="1px" borderColor="rule" py="10px" gap="14px" align="center" flexWrap="wrap">
          <Box flex="1" minW="220px">
            <b>{post.title || post.headline || "No words"}</b>
            <Box color="faded" fontSize="13px">
              by {post.author || "somebody who has left"}; binned {instantWords(post.binned, brand.zone, me.clock24)},
              deleted for good {instantWords(post.gone, brand.zone, me.clock24)}
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
