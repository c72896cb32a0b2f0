import { Box, Flex } from "@chakra-ui/react";
import { Link, useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useBrandContext } from "@/app/brandContext";
import { InkMark } from "@/features/calendar/Labels";
import { Button } from "@/ui/Button";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { type Rota, useRotas } from "./queries";
import { RotaForm } from "./RotaForm";

/** The brand's rotas: what each holds, when it goes next, and where it runs dry. */
export function RotasPage() {
  const { brand, may } = useBrandContext();
  const navigate = useNavigate();
  const found = useRotas(brand.slug);
  const [making, setMaking] = useState(false);
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const make = may("publish") && (
    <Button kind={found.data.length ? "plain" : "main"} onClick={() => setMaking(true)}>
      New rota
    </Button>
  );
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" w="100%" maxW="1120px">
      <Flex align="baseline" gap="16px" mb="14px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px">
          Rotas
        </Box>
        <Box color="faded">Evergreen posts that take turns in slots kept for them.</Box>
        <Box flex="1" />
        {found.data.length > 0 && make}
      </Flex>
      {found.data.length === 0 && (
        <EmptyState
          title="No rota yet"
          words="A rota keeps evergreen posts going by themselves: each takes its turn, rests, and comes back. You see the coming weeks before anything happens, and can change any single one."
        >
          {make}
        </EmptyState>
      )}
      {found.data.map((rota) => (
        <RotaRow key={rota.id} rota={rota} />
      ))}
      {making && (
        <RotaForm
          rota={null}
          close={() => setMaking(false)}
          kept={(id) => navigate({ to: "/$brand/rotas/$rota", params: { brand: brand.slug, rota: String(id) } })}
        />
      )}
    </Box>
  );
}

function RotaRow({ rota }: { rota: Rota }) {
  const { brand, me } = useBrandContext();
  const dry = rota.exhaustion[0];
  return (
    <Link to="/$brand/rotas/$rota" params={{ brand: brand.slug, rota: String(rota.id) }}>
      <Flex
        gap="14px"
        py="12px"
        borderTopWidth="1px"
        borderColor="rule"
        align="baseline"
        flexWrap="wrap"
        _hover={{ bg: "wash" }}
      >
        <InkMark ink={rota.ink} />
        <Box w="220px" fontWeight="600" overflowWrap="anywhere">
          {rota.name}
        </Box>
        <Box w="150px" color="faded">
          {rota.turns} {rota.turns === 1 ? "turn" : "turns"} · {rota.slots} {rota.slots === 1 ? "slot" : "slots"} a week
        </Box>
        <Box flex="1" minW="220px" color={rota.active ? "ink" : "faded"}>
          {rota.active
            ? rota.next
              ? `Next: ${formatInstant(rota.next, brand.zone, me.clock24)}`
              : "Nothing to come"
            : "Off"}
        </Box>
        {dry && (
          <Flex gap="6px" color="maizeInk" align="baseline">
            <StateShape state="held" size={11} /> {dry.summary}
          </Flex>
        )}
      </Flex>
    </Link>
  );
}
