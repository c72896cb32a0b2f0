import { Box, chakra, Flex } from "@chakra-ui/react";
import { memo, useState } from "react";
import type { Column, Network, Profile } from "@/api/client";
import { useProofFrom } from "./from";
import { Pieces, StoryFrames } from "./Pieces";
import { useProofView } from "./view";

export type Whose = Pick<Profile, "id" | "handle" | "name">;
type Props = { column: Column | undefined; network: Network | undefined; profiles: Whose[]; full?: boolean };

/** What followers will see, as the network itself draws it: its look, its folding, its order, its shapes. */
export const ProofCell = memo(function ProofCell({ column, network, profiles, full }: Props) {
  const { dark, wide } = useProofView();
  const [at, setAt] = useState(0);
  const profile = profiles[Math.min(at, profiles.length - 1)];
  if (!column || !network || !profile) return null;
  const paint = network.look[dark ? "dark" : "light"];
  return (
    <>
      {profiles.length > 1 && (
        <chakra.select
          aria-label={`Whose proof on ${network.name}`}
          value={at}
          onChange={(e) => setAt(Number(e.currentTarget.value))}
          fontSize="12px"
          mb="6px"
          bg="transparent"
          borderBottomWidth="1px"
          borderColor="rule"
          minH="24px"
        >
          {profiles.map((p, n) => (
            <option key={p.id} value={n}>
              {p.handle}
            </option>
          ))}
        </chakra.select>
      )}
      <Box p="10px" style={{ background: paint.ground, color: paint.ink }} maxW={wide || full ? "none" : "300px"}>
        <Box
          style={{
            background: paint.card,
            borderColor: paint.line,
            fontFamily: network.look.letters === "serif" ? "Fraunces Variable, serif" : undefined,
          }}
          borderWidth="1px"
          borderRadius={column.proof.layout === "listing" ? "3px" : "10px"}
          overflow="hidden"
          fontSize="12.5px"
          lineHeight="17px"
          data-testid="proof"
          data-layout={column.proof.layout}
        >
          <Seen column={column} profile={profile} accent={paint.accent} line={paint.line} />
        </Box>
      </Box>
    </>
  );
});

type SeenProps = { column: Column; profile: Whose; accent: string; line: string };

function Seen({ column, profile, accent, line }: SeenProps) {
  const proof = column.proof;
  const first = proof.layout === "grid" || proof.layout === "reel" || proof.layout === "board";
  if (proof.layout === "story") return <StoryFrames proof={proof} profile={profile} />;
  const media = <Pieces proof={proof} />;
  return (
    <>
      {proof.layout !== "board" && <Who profile={profile} />}
      {first && media}
      <Box p="8px 10px">
        {proof.title && (
          <Box fontWeight="700" fontSize="14px" lineHeight="18px" mb="4px" overflowWrap="anywhere">
            {proof.title}
          </Box>
        )}
        {proof.facts.length > 0 && (
          <Box mb="6px" fontSize="11.5px" lineHeight="15px" opacity="0.85">
            {proof.facts.map((fact) => (
              <Box key={fact.label} overflowWrap="anywhere">
                {fact.label}: {fact.value}
              </Box>
            ))}
          </Box>
        )}
        <Words column={column} accent={accent} />
        {!first && media}
        <Led column={column} accent={accent} line={line} />
        {proof.layout === "board" && <Who profile={profile} />}
      </Box>
      {proof.comment && (
        <Box
          p="8px 10px"
          borderTopWidth="1px"
          style={{ borderColor: line }}
          overflowWrap="anywhere"
          data-testid="proof-comment"
        >
          <b>{profile.handle}</b> {proof.comment}
        </Box>
      )}
    </>
  );
}

function Who({ profile }: { profile: Whose }) {
  const { ink } = useProofFrom();
  return (
    <Flex gap="8px" align="center" p="8px 10px">
      <Box w="24px" h="24px" borderRadius="50%" bg={ink} flex="none" />
      <Box minW="0" truncate>
        <b>{profile.name}</b> <span style={{ opacity: 0.8 }}>{profile.handle}</span>
      </Box>
    </Flex>
  );
}

/** The text as it folds. */
function Words({ column, accent }: { column: Column; accent: string }) {
  const [whole, setWhole] = useState(false);
  const { visible_text: seen, folded_text: hidden, rows, title } = column.proof;
  return (
    <Box whiteSpace="pre-wrap" overflowWrap="anywhere" dir="auto" data-testid="proof-text">
      {whole ? seen + hidden : seen}
      {hidden && !whole && (
        <chakra.button type="button" ml="4px" minH="24px" style={{ color: accent }} onClick={() => setWhole(true)}>
          … more
        </chakra.button>
      )}
      {!seen && !title && rows.length === 0 && <i>Nothing to see yet.</i>}
    </Box>
  );
}

/** Where the post leads: its button, its card, or its link. */
function Led({ column, accent, line }: { column: Column; accent: string; line: string }) {
  const { media } = useProofFrom();
  const { link, button, card, rows } = column.proof;
  const host = link.replace(/^https?:\/\//, "").split("/")[0];
  if (button) {
    return (
      <Box
        display="inline-block"
        mt="8px"
        px="12px"
        py="5px"
        borderRadius="99px"
        borderWidth="1px"
        fontWeight="600"
        style={{ color: accent, borderColor: accent }}
        data-testid="proof-button"
      >
        {button}
      </Box>
    );
  }
  if (!link) return null;
  if (card && rows.length === 0) {
    return (
      <Box
        mt="6px"
        borderWidth="1px"
        borderRadius="6px"
        overflow="hidden"
        style={{ borderColor: line }}
        data-testid="proof-card"
      >
        {card.picture && <img src={`${media}/${card.picture}/thumb`} alt="" style={{ width: "100%" }} />}
        <Box p="6px 8px">
          <b>{card.title || host}</b>
          <Box>{card.description}</Box>
          <Box opacity="0.8">{host}</Box>
        </Box>
      </Box>
    );
  }
  return (
    <Box mt="6px" overflowWrap="anywhere" style={{ color: accent }}>
      {link}
    </Box>
  );
}
