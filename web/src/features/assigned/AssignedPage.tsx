import { Box, Flex } from "@chakra-ui/react";
import { useRouter } from "@tanstack/react-router";
import type { Schemas } from "@/api/client";
import { BrandBlock } from "@/app/shell/BrandBlock";
import { useMe } from "@/features/people/queries";
import { EmptyState } from "@/ui/EmptyState";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { StateShape } from "@/ui/StateShape";
import { formatInstant } from "@/ui/times";
import { useAssigned } from "./useAssigned";

const SHAPES: Record<string, string> = {
  sign: "up_for_signoff",
  back: "sent_back",
  task: "unplanned",
  mention: "planned",
  hand: "waiting_for_hand",
};

/** One list of everything that waits on one person, the most urgent first; each line leads to its spot. */
export function AssignedPage() {
  const waiting = useAssigned();
  if (waiting.error && !waiting.data) return <QueryFailed error={waiting.error} again={() => waiting.refetch()} />;
  if (!waiting.data) return <Loading />;
  const { items, count } = waiting.data;
  return (
    <Box px={{ base: "12px", md: "24px" }} py="18px" w="100%" maxW="860px">
      <Box as="h1" fontSize="28px" lineHeight="32px" mb="12px">
        Waits on you{" "}
        {count > 0 && (
          <Box as="span" color="faded">
            {count}
          </Box>
        )}
      </Box>
      {count === 0 && (
        <EmptyState
          title="Nothing waits on you"
          words="What you are to sign off, mend, see to or publish by hand comes here, from every brand of yours."
        />
      )}
      <Box as="ul" listStyleType="none" m="0" p="0">
        {items.map((item) => (
          <Row key={`${item.kind}${item.path}${item.summary}`} item={item} />
        ))}
      </Box>
      {items.length < count && <Box color="faded">And {count - items.length} more.</Box>}
    </Box>
  );
}

function Row({ item }: { item: Schemas["AssignedItem"] }) {
  const me = useMe().data;
  const router = useRouter();
  const brand = me?.brands.find((b) => b.slug === item.brand);
  return (
    <Box as="li" borderTopWidth="1px" borderColor="rule">
      <Box
        asChild
        display="flex"
        gap="12px"
        py="9px"
        alignItems="flex-start"
        _hover={{ bg: "wash" }}
        data-testid="waiting-item"
      >
        <a
          href={item.path}
          onClick={(event) => {
            if (event.ctrlKey || event.metaKey) return;
            event.preventDefault();
            void router.navigate({ href: item.path });
          }}
        >
          <Box pt="3px">
            <StateShape state={SHAPES[item.kind] ?? "planned"} size={16} />
          </Box>
          <Box flex="1" minW="0">
            <b>{item.headline}</b>
            <Box color="faded" overflowWrap="anywhere">
              {item.summary}
            </Box>
          </Box>
          <Box w="150px" flex="none" color={item.late ? "pimenton" : "faded"} textAlign="right">
            {item.due_at && brand && formatInstant(item.due_at, brand.zone, me?.clock24 ?? true)}
            {item.late && <Box fontWeight="600">has passed</Box>}
          </Box>
          <Flex w="36px" flex="none" justify="flex-end" title={brand?.name}>
            {brand && <BrandBlock ink={brand.ink} name={brand.name} size={22} />}
          </Flex>
        </a>
      </Box>
    </Box>
  );
}
