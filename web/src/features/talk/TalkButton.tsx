import { useNavigate, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import type { Network } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { Button } from "@/ui/Button";
import { TalkPanel, useTalk } from "./TalkPanel";
import type { Version } from "./target";

/** How much is said and asked at a post; opened by itself where the address leads to it. */
export function TalkButton({
  id,
  networks,
  versions,
}: {
  id: number;
  networks: Map<string, Network>;
  versions: Version[];
}) {
  const { brand } = useBrandContext();
  const navigate = useNavigate();
  const { part } = useSearch({ from: "/$brand/bench/$post" });
  const talk = useTalk(brand.slug, id).data;
  const [open, setOpen] = useState(part !== undefined);
  const at = part?.startsWith("remark-") ? Number(part.slice(7)) : undefined;
  const values = (talk?.remarks.filter((r) => !r.resolved_at).length ?? 0) + (talk?.tasks.length ?? 0);
  return (
    <>
      <Button onClick={() => setOpen(true)}>Talk {values > 0 && <b>{values}</b>}</Button>
      {open && (
        <TalkPanel
          id={id}
          networks={networks}
          versions={versions}
          at={at}
          close={() => {
            setOpen(false);
            if (part !== undefined) void navigate({ to: ".", search: {}, replace: true });
          }}
        />
      )}
    </>
  );
}
