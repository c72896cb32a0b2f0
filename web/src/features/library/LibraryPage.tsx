import { Box, chakra, Flex } from "@chakra-ui/react";
import { Link, useNavigate, useSearch } from "@tanstack/react-router";
import { useBrandContext } from "@/app/brandContext";
import { BinnedPosts } from "./BinnedPosts";
import { MediaPage } from "./MediaPage";
import { SayingsPage } from "./SayingsPage";

const SHELVES = ["media", "snippets", "tag-sets", "link-tags", "bin"] as const;
export type Shelf = (typeof SHELVES)[number];
const CALLED: Record<Shelf, string> = {
  media: "Media",
  snippets: "Snippets",
  "tag-sets": "Tag sets",
  "link-tags": "Link tags",
  bin: "Posts in the bin",
};

/** The library: media, and what is kept to be said again. */
export function LibraryPage() {
  const { brand } = useBrandContext();
  const search = useSearch({ from: "/$brand/library" });
  const navigate = useNavigate({ from: "/$brand/library" });
  const shelf = search.shelf ?? "media";
  return (
    <Box px={{ base: "12px", md: "24px" }} py="16px" flex="1">
      <Flex align="baseline" gap="22px" flexWrap="wrap" mb="14px">
        <chakra.h1 fontSize="28px" lineHeight="34px">
          Library
        </chakra.h1>
        <Flex as="nav" aria-label="Shelves" gap="16px" flexWrap="wrap">
          {SHELVES.map((one) => (
            <Link
              key={one}
              to="/$brand/library"
              params={{ brand: brand.slug }}
              search={one === "media" ? {} : { shelf: one }}
              aria-current={shelf === one ? "page" : undefined}
            >
              <chakra.span
                display="inline-block"
                minH="24px"
                color={shelf === one ? "ink" : "faded"}
                fontWeight={shelf === one ? "600" : undefined}
                borderBottomWidth="2px"
                borderColor={shelf === one ? "pimenton" : "transparent"}
              >
                {CALLED[one]}
              </chakra.span>
            </Link>
          ))}
        </Flex>
      </Flex>
      {shelf === "media" ? (
        <MediaPage
          search={search}
          set={(more) => void navigate({ search: (s) => ({ ...s, ...more }), replace: true })}
        />
      ) : shelf === "bin" ? (
        <BinnedPosts />
      ) : (
        <SayingsPage key={shelf} kind={shelf} />
      )}
    </Box>
  );
}
