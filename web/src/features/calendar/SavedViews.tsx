import { Box, chakra, Flex, Menu, Portal } from "@chakra-ui/react";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { deleteView, saveView } from "@/data/calendar";
import { useChanged } from "@/data/changes";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { SidePanel } from "@/ui/SidePanel";
import { Tick } from "@/ui/Tick";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import { filtersOf, NO_FILTERS } from "./filters";
import { useViews } from "./queries";

/** Views kept under a name: one's own, and those others share. */
export function SavedViews() {
  const { brand } = useBrandContext();
  const navigate = useNavigate({ from: "/$brand/calendar" });
  const views = useViews(brand.slug).data ?? [];
  const [keeping, setKeeping] = useState(false);
  const go = (view: Schemas["ViewOut"]) =>
    navigate({ search: (s) => ({ from: s.from, ...NO_FILTERS, ...(view.query as object) }) });
  return (
    <>
      <Menu.Root positioning={{ placement: "bottom-end" }} lazyMount unmountOnExit>
        <Menu.Trigger asChild>
          <Button kind="quiet" minH="28px" fontSize="13px">
            Kept views ▾
          </Button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              {views.map((view) => (
                <MenuRow key={view.id} value={String(view.id)} onClick={() => go(view)}>
                  {view.name}
                  {!view.mine && (
                    <Box as="span" color="faded" fontSize="12px">
                      by {view.by}
                    </Box>
                  )}
                </MenuRow>
              ))}
              <MenuRow value="keep" onClick={() => setKeeping(true)}>
                Keep this view …
              </MenuRow>
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {keeping && <KeepPanel views={views} close={() => setKeeping(false)} />}
    </>
  );
}

function KeepPanel({ views, close }: { views: Schemas["ViewOut"][]; close: () => void }) {
  const { brand, may } = useBrandContext();
  const search = useSearch({ from: "/$brand/calendar" });
  const changed = useChanged(brand.slug);
  const form = useForm();
  const [name, setName] = useState("");
  const [shared, setShared] = useState(false);
  async function send(event: FormEvent) {
    event.preventDefault();
    const query: Record<string, string> = { ...filtersOf(search), ...(search.view ? { view: search.view } : {}) };
    const body = { name, query, shared };
    if (!(await form.send(() => saveView(brand.slug, body)))) return;
    await changed("view");
    toast(`“${name}” is kept.`);
    close();
  }
  async function remove(id: number) {
    await form.send(() => deleteView(brand.slug, id));
    await changed("view");
  }
  return (
    <SidePanel title="Keep this view" open close={close}>
      <chakra.form onSubmit={send}>
        <Field
          label="Name"
          value={name}
          onChange={(e) => setName(e.currentTarget.value)}
          error={form.at("/name")}
          maxLength={60}
          required
        />
        {may("write") && (
          <Tick checked={shared} onChange={(e) => setShared(e.target.checked)}>
            Everyone in {brand.name} sees it
          </Tick>
        )}
        <Button kind="main" type="submit" mt="12px" disabled={form.busy}>
          Keep
        </Button>
      </chakra.form>
      {views.some((v) => v.mine) && (
        <Box mt="24px">
          <Box as="h3" fontSize="16px">
            Yours
          </Box>
          {views
            .filter((v) => v.mine)
            .map((v) => (
              <Flex
                key={v.id}
                align="center"
                justify="space-between"
                borderBottomWidth="1px"
                borderColor="rule"
                py="4px"
              >
                <span>
                  {v.name} {v.shared && <chakra.span color="faded">shared</chakra.span>}
                </span>
                <Button kind="quiet" aria-label={`Delete ${v.name}`} onClick={() => remove(v.id)}>
                  ✕
                </Button>
              </Flex>
            ))}
        </Box>
      )}
    </SidePanel>
  );
}
