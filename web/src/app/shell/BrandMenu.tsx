import { chakra, Menu, Portal } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { useHere } from "./BrandShell";

/** The brand's own initial block and name; behind it, the brand's pages and the other brands. */
export function BrandMenu() {
  const { brand, me } = useHere();
  const navigate = useNavigate();
  const others = me.brands.filter((b) => b.slug !== brand.slug);
  return (
    <Menu.Root positioning={{ placement: "bottom-start" }}>
      <Menu.Trigger asChild>
        <chakra.button
          type="button"
          display="flex"
          alignItems="center"
          gap="8px"
          fontWeight="600"
          cursor="pointer"
          pl={{ md: "18px" }}
          borderLeftWidth={{ md: "1px" }}
          borderColor="rule"
          minH="28px"
        >
          <Block ink={brand.ink} name={brand.name} />
          <chakra.span display={{ base: "none", sm: "inline" }}>{brand.name}</chakra.span>
          <chakra.span color="faded" aria-hidden>
            ▾
          </chakra.span>
        </chakra.button>
      </Menu.Trigger>
      <Portal>
        <Menu.Positioner>
          <MenuList>
            <MenuRow
              value="profiles"
              onClick={() => navigate({ to: "/$brand/profiles", params: { brand: brand.slug }, search: {} })}
            >
              Profiles of {brand.name}
            </MenuRow>
            {others.map((other) => (
              <MenuRow
                key={other.slug}
                value={other.slug}
                onClick={() => navigate({ to: "/$brand/calendar", params: { brand: other.slug }, search: {} })}
              >
                <Block ink={other.ink} name={other.name} /> {other.name}
              </MenuRow>
            ))}
          </MenuList>
        </Menu.Positioner>
      </Portal>
    </Menu.Root>
  );
}

function Block({ ink, name }: { ink: string; name: string }) {
  return (
    <chakra.b
      aria-hidden
      w="26px"
      h="26px"
      borderRadius="3px"
      display="inline-grid"
      placeItems="center"
      bg={ink}
      color="paper"
      fontFamily="heading"
      fontWeight="600"
      fontSize="15px"
      flex="none"
    >
      {name.slice(0, 1)}
    </chakra.b>
  );
}
