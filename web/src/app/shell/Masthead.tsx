import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link } from "@tanstack/react-router";
import type { ReactNode } from "react";
import type { Me } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { AssignedToMe } from "@/features/assigned/AssignedToMe";
import { NoticesMenu } from "@/features/notices/NoticesMenu";
import { Button } from "@/ui/Button";
import { Kbd } from "@/ui/Kbd";
import { Wordmark } from "@/ui/Wordmark";
import { BrandMenu } from "./BrandMenu";
import { PersonMenu } from "./PersonMenu";

const Section = chakra("span", {
  base: {
    display: "block",
    color: "faded",
    pt: "18px",
    pb: "15px",
    lineHeight: "20px",
    borderBottom: "3px solid transparent",
    "[data-status=active] > &": { color: "ink", fontWeight: "600", borderColor: "pimenton" },
  },
});

/** The frame of every masthead: wordmark, brands, what the page puts in, and the person. */
export function MastFrame({
  brand,
  me,
  home,
  children,
}: {
  brand: Me["brands"][number] | null;
  me: Me;
  home: string;
  children?: ReactNode;
}) {
  return (
    <Flex
      as="header"
      minH="56px"
      align="center"
      gap={{ base: "10px", md: "18px" }}
      px={{ base: "12px", md: "24px" }}
      pt={{ base: "10px", lg: "0" }}
      borderBottomWidth="1px"
      borderColor="rule"
      flexWrap="wrap"
    >
      <a href={home} aria-label="Menudo, to the first page">
        <Wordmark />
      </a>
      <BrandMenu brand={brand} me={me} />
      {children}
      <AssignedToMe />
      <NoticesMenu />
      <PersonMenu me={me} />
    </Flex>
  );
}

export function Masthead({ onKeys, plain }: { onKeys: () => void; plain?: boolean }) {
  const { brand, me, may } = useBrandContext();
  const params = { brand: brand.slug };
  return (
    <Box position="relative">
      <MastFrame brand={brand} me={me} home={`/${brand.slug}/today`}>
        {/* Where there is little room the sections have a row to themselves, below. */}
        <Flex
          as="nav"
          aria-label="Sections"
          gap={{ base: "18px", md: "20px" }}
          ml={{ lg: "14px" }}
          flex={{ base: "1 0 100%", lg: "1" }}
          order={{ base: "10", lg: "0" }}
        >
          <Link to="/$brand/today" params={params}>
            <Section>Today</Section>
          </Link>
          <Link to="/$brand/calendar" params={params} search={{}} activeOptions={{ includeSearch: false }}>
            <Section>Calendar</Section>
          </Link>
          <Link to="/$brand/rotas" params={params}>
            <Section>Rotas</Section>
          </Link>
          <Link to="/$brand/relays" params={params} search={{}} activeOptions={{ includeSearch: false }}>
            <Section>Relays</Section>
          </Link>
          <Link to="/$brand/library" params={params} search={{}} activeOptions={{ includeSearch: false }}>
            <Section>Library</Section>
          </Link>
        </Flex>
        <Box display={{ base: "none", md: "block" }}>
          <Button kind="quiet" onClick={onKeys}>
            Keys <Kbd>?</Kbd>
          </Button>
        </Box>
        {may("write") && (
          <Button kind="main" asChild order="9" display={plain ? { base: "none", md: "inline-flex" } : undefined}>
            <Link to="/$brand/bench/$post" params={{ brand: brand.slug, post: "new" }} search={{}}>
              <span>
                New<chakra.span srOnly={{ base: true, md: false }}> post</chakra.span>
              </span>
              <Kbd display={{ base: "none", md: "inline" }}>n</Kbd>
            </Link>
          </Button>
        )}
      </MastFrame>
    </Box>
  );
}
