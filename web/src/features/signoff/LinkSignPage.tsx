import { Box, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { approveAllByLink, approveByLink, remarkByLink, sendBackByLink, signoffQueries } from "@/data/signoff";
import { ProofFrom } from "@/features/posts/proof/from";
import { Field } from "@/ui/Field";
import { Loading } from "@/ui/Loading";
import { Toasts } from "@/ui/Toasts";
import { formatInstant } from "@/ui/times";
import type { Answers } from "./deck";
import { SignDeck } from "./SignDeck";

const ZONE = Intl.DateTimeFormat().resolvedOptions().timeZone;

/** For a client, on a phone, without an account: every post that waits, and the two answers. */
export function LinkSignPage() {
  const { token } = useParams({ from: "/sign/$token" });
  const { post } = useSearch({ from: "/sign/$token" });
  const kept = `menudo-sign-name-${token.slice(0, 8)}`;
  const [name, setName] = useState(() => localStorage.getItem(kept) ?? "");
  const page = useQuery(signoffQueries.byLink(token));
  const answers: Answers = {
    agree: (one, changes) =>
      approveByLink(token, one.post, { revision: one.revision, deliveries: null, changes, name }),
    agreeToAll: (posts) =>
      approveAllByLink(token, { posts: posts.map((p) => ({ id: p.post, revision: p.revision })), name }),
    sendBack: (one, words, on) =>
      sendBackByLink(token, one.post, { revision: one.revision, words, ...on, deliveries: null, name }),
    say: (one, text, on) => remarkByLink(token, one.post, { text, ...on, name }),
  };
  return (
    <Box as="main" minH="100vh" display="flex" flexDirection="column">
      {page.error && !page.data ? (
        <Box role="alert" p="24px" maxW="560px" mx="auto">
          <Box as="h1" fontSize="22px" mb="8px">
            This link leads nowhere
          </Box>
          {page.error.message}
        </Box>
      ) : page.data ? (
        <ProofFrom value={{ media: `/media/sign/${token}`, ink: page.data.ink }}>
          <Box borderBottomWidth="1px" borderColor="rule">
            <Flex gap="10px" align="center" px="20px" py="12px" w="100%" maxW="560px" mx="auto">
              <BrandBlock ink={page.data.ink} name={page.data.brand} size={28} />
              <Box flex="1" minW="0">
                <Box fontWeight="600" truncate>
                  {page.data.brand}
                </Box>
                <Box color="faded" fontSize="12px">
                  for {page.data.display_name}
                  {page.data.expires_at && ` · until ${formatInstant(page.data.expires_at, ZONE, true)}`}
                </Box>
              </Box>
            </Flex>
          </Box>
          <Box px="20px" pt="12px" w="100%" maxW="560px" mx="auto">
            <Box asChild>
              <details>
                <Box asChild cursor="pointer" color="faded" minH="24px">
                  <summary>
                    You sign as {page.data.display_name}
                    {name && ` (says: ${name})`}
                  </summary>
                </Box>
                <Field
                  label="Your name"
                  value={name}
                  maxLength={120}
                  autoComplete="name"
                  onChange={(e) => {
                    setName(e.currentTarget.value);
                    localStorage.setItem(kept, e.currentTarget.value);
                  }}
                />
                <Box color="faded" fontSize="12px">
                  It stands beside the name that this link was made for.
                </Box>
              </details>
            </Box>
          </Box>
          <SignDeck data={page.data} answers={answers} first={post} reload={() => page.refetch()} clock24 />
        </ProofFrom>
      ) : (
        <Loading />
      )}
      <Toasts />
    </Box>
  );
}
