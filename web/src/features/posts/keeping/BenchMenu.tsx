import { Menu, Portal } from "@chakra-ui/react";
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, Problem, unwrap } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { MenuList, MenuRow } from "@/ui/MenuParts";
import { toast } from "@/ui/toasts";
import type { useBench } from "../useBench";
import { HistoryPanel } from "./HistoryPanel";

/** What can be done with the whole post: its history, a copy, the bin. */
export function BenchMenu({ bench, id }: { bench: ReturnType<typeof useBench>; id: number }) {
  const { brand } = useBrandContext();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const [history, setHistory] = useState(false);
  const path = { brand: brand.slug, post_id: id };
  const open = (post: number) =>
    navigate({ to: "/$brand/bench/$post", params: { brand: brand.slug, post: String(post) }, search: {} });

  async function attempt(act: () => Promise<void>) {
    try {
      await bench.write();
      await act();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  const copy = (times: boolean) =>
    attempt(async () => {
      const made = await unwrap(
        api.POST("/api/brands/{brand}/posts/{post_id}/duplicate", { params: { path }, body: { times } }),
      );
      await queries.invalidateQueries({ queryKey: ["calendar", brand.slug] });
      toast(times ? "A copy, with the times of the first. Nothing of it is planned." : "A copy, without times.");
      void open(made.id);
    });
  const bin = () =>
    attempt(async () => {
      await unwrap(api.DELETE("/api/brands/{brand}/posts/{post_id}", { params: { path } }));
      await queries.invalidateQueries({ queryKey: ["calendar", brand.slug] });
      void navigate({ to: "/$brand/calendar", params: { brand: brand.slug }, search: {} });
      toast("In the bin, for 30 days.", {
        undo: async () => {
          await unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/restore", { params: { path } }));
          void open(id);
        },
      });
    });
  return (
    <>
      <Menu.Root positioning={{ placement: "bottom-end" }}>
        <Menu.Trigger asChild>
          <Button aria-label="More for this post">⋯</Button>
        </Menu.Trigger>
        <Portal>
          <Menu.Positioner>
            <MenuList>
              <MenuRow value="history" onSelect={() => setHistory(true)}>
                History
              </MenuRow>
              <MenuRow value="copy" onSelect={() => void copy(false)}>
                Duplicate
              </MenuRow>
              <MenuRow value="copy-times" onSelect={() => void copy(true)}>
                Duplicate with its times
              </MenuRow>
              <MenuRow value="bin" onSelect={() => void bin()}>
                To the bin
              </MenuRow>
            </MenuList>
          </Menu.Positioner>
        </Portal>
      </Menu.Root>
      {history && <HistoryPanel bench={bench} id={id} close={() => setHistory(false)} />}
    </>
  );
}
