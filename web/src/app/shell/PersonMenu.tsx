import { chakra, Menu, Portal } from "@chakra-ui/react";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import type { Me } from "@/api/client";
import { applyScheme, chosenScheme, type Scheme } from "@/app/scheme";
import { useChanged } from "@/data/changes";
import { updateMe } from "@/data/people";
import { useSignOut } from "@/features/people/useSignOut";
import { MenuList, MenuRow } from "@/ui/MenuParts";

const SCHEMES: [Scheme, string][] = [
  ["system", "Light or dark as the system"],
  ["light", "Light"],
  ["dark", "Dark"],
];

export function PersonMenu({ me }: { me: Me }) {
  const navigate = useNavigate();
  const changed = useChanged();
  const [scheme, setScheme] = useState(chosenScheme());
  const initials = me.name
    .split(/\s+/)
    .map((word) => word.slice(0, 1))
    .join("")
    .slice(0, 2);

  function choose(value: Scheme) {
    applyScheme(value);
    setScheme(value);
  }
  async function clock() {
    await updateMe({ clock24: !me.clock24 });
    await changed("account");
  }
  const { leave, question } = useSignOut(() => location.assign("/"));
  return (
    <>
      <Menu.Root lazyMount unmountOnExit positioning={{ placement: "bottom-end" }}>
        <Menu.Trigger asChild>
          <chakra.button
            type="button"
            aria-label={`${initials}: ${me.name}, settings and sign out`}
            w="30px"
            h="30px"
            borderRadius="50%"
            borderWidth="1.5px"
            borderColor="ink"
            fontSize="11px"
            fontWeight="700"
            cursor="pointer"
          >
            {initials}
          </chakra.button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              {SCHEMES.map(([value, words]) => (
                <MenuRow key={value} value={value} onClick={() => choose(value)}>
                  {words} {scheme === value && "✓"}
                </MenuRow>
              ))}
              <MenuRow value="account" onClick={() => navigate({ to: "/account" })}>
                Your account
              </MenuRow>
              {me.manages_installation && (
                <MenuRow value="installation" onClick={() => navigate({ to: "/installation" })}>
                  Installation
                </MenuRow>
              )}
              {me.demo && (
                <MenuRow value="mail" onClick={() => navigate({ to: "/mail-tray" })}>
                  Mail tray of the demo
                </MenuRow>
              )}
              <MenuRow value="clock" onClick={clock}>
                {me.clock24 ? "Write times as 3 pm" : "Write times as 15:00"}
              </MenuRow>
              <MenuRow value="leave" onClick={leave}>
                Sign out {me.name}
              </MenuRow>
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {question}
    </>
  );
}
