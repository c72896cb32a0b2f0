import { Box, chakra, Flex } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { deliveryQueries } from "@/data/delivery";
import { useNetworks, useProfiles } from "@/features/profiles/queries";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { NetworkTile } from "@/ui/NetworkTile";
import { QueryFailed } from "@/ui/QueryFailed";
import { Picker } from "@/ui/Select";
import { TroubleGroup } from "./TroubleGroup";

const SPANS = [7, 30, 90] as const;

/** What needs a person, by its cause: why, what to do, mended in place; and how much went out and how much failed. */
export function TroublePage() {
  const { brand } = useBrandContext();
  const navigate = useNavigate({ from: "/$brand/trouble" });
  const { profile, days = 30 } = useSearch({ from: "/$brand/trouble" });
  const profiles = useProfiles(brand.slug).data ?? [];
  const networks = useNetworks();
  const found = useQuery(deliveryQueries.troubles(brand.slug, profile, days));
  if (found.error && !found.data) return <QueryFailed error={found.error} again={() => found.refetch()} />;
  if (!found.data) return <Loading />;
  const { groups, counts } = found.data;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" w="100%" maxW="1320px">
      <Flex align="baseline" gap="16px" mb="14px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px">
          Trouble
        </Box>
        <Box flex="1" />
        <Picker
          aria-label="Whose trouble"
          w="auto"
          value={profile ?? ""}
          onChange={(e) => {
            const chosen = Number(e.currentTarget.value) || undefined;
            void navigate({ search: (s) => ({ ...s, profile: chosen }) });
          }}
        >
          <option value="">every profile</option>
          {profiles.map((p) => (
            <option key={p.id} value={p.id}>
              {p.display_name || p.handle}
            </option>
          ))}
        </Picker>
      </Flex>
      <Box display="grid" gridTemplateColumns={{ base: "1fr", lg: "1fr 320px" }} gap="36px">
        <Box minW="0">
          {groups.length === 0 && (
            <EmptyState
              title="Nothing is in trouble"
              words="What a network refused, what may have gone out, and what missed its time comes here, with what to do."
            />
          )}
          {groups.map((group) => (
            <TroubleGroup key={group.cause + group.network} group={group} networks={networks} />
          ))}
        </Box>
        <Box as="section" aria-label="Sent and failed">
          <Flex align="baseline" gap="10px" borderTopWidth="2px" borderColor="ink" pt="6px" mb="4px">
            <Box as="h2" fontSize="18px" lineHeight="24px" flex="1">
              Sent and failed
            </Box>
            <Picker
              aria-label="How far back"
              w="auto"
              value={days}
              onChange={(e) => {
                const span = Number(e.currentTarget.value);
                void navigate({ search: (s) => ({ ...s, days: span }) });
              }}
            >
              {SPANS.map((n) => (
                <option key={n} value={n}>
                  {n} days
                </option>
              ))}
            </Picker>
          </Flex>
          {counts.length === 0 && <Box color="faded">Nothing went out in these days.</Box>}
          {counts.length > 0 && (
            <chakra.table w="100%" fontVariantNumeric="tabular-nums" css={{ "& td, & th": { padding: "4px 0" } }}>
              <thead>
                <tr>
                  <chakra.th textAlign="left" fontWeight="600">
                    Profile
                  </chakra.th>
                  <chakra.th textAlign="right" fontWeight="600">
                    sent
                  </chakra.th>
                  <chakra.th textAlign="right" fontWeight="600">
                    failed
                  </chakra.th>
                </tr>
              </thead>
              <tbody>
                {counts.map((one) => {
                  const network = networks.get(one.network);
                  return (
                    <chakra.tr key={one.profile} borderTopWidth="1px" borderColor="rule">
                      <td>
                        <Flex gap="8px" align="center" minW="0">
                          {network && <NetworkTile letters={network.letters} shape={network.shape} size={18} />}
                          {one.handle}
                        </Flex>
                      </td>
                      <chakra.td textAlign="right">{one.sent}</chakra.td>
                      <chakra.td textAlign="right" color={one.failed ? "pimenton" : "faded"}>
                        {one.failed}
                      </chakra.td>
                    </chakra.tr>
                  );
                })}
              </tbody>
            </chakra.table>
          )}
        </Box>
      </Box>
    </Box>
  );
}
