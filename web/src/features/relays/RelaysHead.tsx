import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import { useBrandContext } from "@/app/brandContext";
import { useBoard } from "./queries";

const Tab = chakra("span", {
  base: {
    display: "inline-block",
    py: "6px",
    minHeight: "32px",
    color: "faded",
    borderBottom: "2px solid transparent",
    "[data-status=active] > &": { color: "ink", fontWeight: "600", borderColor: "ink" },
  },
});
const TABS = [
  ["/$brand/relays", "Board"],
  ["/$brand/relays/asked", "Asked"],
  ["/$brand/relays/log", "Log"],
  ["/$brand/relays/feeds", "Feeds"],
  ["/$brand/relays/shelf", "Reading shelf"],
  ["/$brand/relays/catalogue", "Catalogue"],
] as const;

/** The head of every page that keeps things going by themselves: what they are fed by, and what became of it. */
export function RelaysHead({ title, about, children }: { title: string; about: string; children?: ReactNode }) {
  const { brand } = useBrandContext();
  const asked = useBoard(brand.slug).data?.asked ?? 0;
  return (
    <>
      <Flex
        as="nav"
        aria-label="Relays"
        gap="20px"
        mb="10px"
        flexWrap="wrap"
        borderBottomWidth="1px"
        borderColor="rule"
      >
        {TABS.map(([to, words]) => (
          <Link
            key={to}
            to={to}
            params={{ brand: brand.slug }}
            search={{}}
            activeOptions={{ exact: true, includeSearch: false }}
          >
            <Tab>
              {words}
              {words === "Asked" && asked > 0 && (
                <chakra.b color="pimenton" ml="4px">
                  {asked}
                </chakra.b>
              )}
            </Tab>
          </Link>
        ))}
      </Flex>
      <Flex align="baseline" gap="14px" mb="12px" flexWrap="wrap">
        <Box as="h1" fontSize="28px" lineHeight="32px">
          {title}
        </Box>
        <Box color="faded">{about}</Box>
        <Box flex="1" />
        {children}
      </Flex>
    </>
  );
}
