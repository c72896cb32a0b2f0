import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { approveAll, approvePost, sendBack, signoffQueries } from "@/data/signoff";
import { createRemark } from "@/data/talk";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { Tick } from "@/ui/Tick";
import type { Answers } from "./deck";
import { SignDeck } from "./SignDeck";

/** What waits on me in this brand, one after another; or what waits on anybody. */
export function SignPage() {
  const { brand, me, may } = useBrandContext();
  const { post, everyone = false } = useSearch({ from: "/$brand/sign" });
  const navigate = useNavigate({ from: "/$brand/sign" });
  const path = { brand: brand.slug };
  const page = useQuery({ ...signoffQueries.pending(brand.slug, everyone), enabled: may("sign_off") });
  const answers: Answers = {
    agree: (one, changes) => approvePost(brand.slug, one.post, one.revision, { deliveries: null, changes }),
    agreeToAll: (posts) => approveAll(brand.slug, { posts: posts.map((p) => ({ id: p.post, revision: p.revision })) }),
    sendBack: (one, words, on) => sendBack(brand.slug, one.post, one.revision, { words, ...on, deliveries: null }),
    say: (one, text, on) => createRemark(brand.slug, one.post, { text, ...on, shared: false }),
  };
  if (!may("sign_off"))
    return (
      <EmptyState
        title="Sign-off"
        words="Who signs off here sees what waits for them. You may write, and put posts up."
      />
    );
  if (page.error && !page.data) return <QueryFailed error={page.error} again={() => page.refetch()} />;
  if (!page.data) return <Loading />;
  return (
    <>
      <Flex gap="16px" align="center" px="20px" pt="12px" w="100%" maxW="560px" mx="auto" flexWrap="wrap">
        <Tick
          checked={everyone}
          onChange={(e) => {
            const all = e.target.checked || undefined;
            void navigate({ search: (was) => ({ ...was, everyone: all }), replace: true });
          }}
        >
          Also what waits on others
        </Tick>
        <Box flex="1" />
        {may("manage_people") && (
          <Link to="/$brand/sign-rules" params={path} style={{ textDecoration: "underline" }}>
            Rules and links
          </Link>
        )}
      </Flex>
      <SignDeck
        key={String(everyone)}
        data={page.data}
        answers={answers}
        first={post}
        reload={() => page.refetch()}
        clock24={me.clock24}
      />
    </>
  );
}
