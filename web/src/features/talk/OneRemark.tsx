import { Box, Flex } from "@chakra-ui/react";
import { useEffect, useRef, useState } from "react";
import { type Network, Problem, type Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { deleteRemark, resolveRemark, updateRemark } from "@/data/talk";
import { Button } from "@/ui/Button";
import { TextArea } from "@/ui/TextArea";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";

type Props = { post: number; remark: Schemas["RemarkOut"]; networks: Map<string, Network>; lit: boolean };

/** One remark: whose, when, on what; settled by anyone, changed by who made it. */
export function OneRemark({ post, remark, networks, lit }: Props) {
  const { brand, me } = useBrandContext();
  const changed = useChanged(brand.slug);
  const [editing, setEditing] = useState(false);
  const [text, setText] = useState(remark.text);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (lit) box.current?.scrollIntoView({ block: "center" });
  }, [lit]);

  async function attempt(act: () => Promise<unknown>) {
    try {
      await act();
      setEditing(false);
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
    await changed({ kind: "remarks", id: post });
  }
  const on = [networks.get(remark.network)?.name, remark.field.replace("_", " ")].filter(Boolean).join(", ");
  return (
    <Box
      ref={box}
      py="8px"
      px={lit ? "8px" : "0"}
      borderTopWidth="1px"
      borderColor="rule"
      bg={lit ? "wash" : undefined}
      opacity={remark.resolved_at ? 0.75 : 1}
      data-testid="remark"
    >
      <Box fontSize="12px" lineHeight="16px" color="faded">
        <Box as="b" color="ink">
          {remark.name}
        </Box>{" "}
        {formatInstant(remark.created_at, brand.zone, me.clock24)}
        {remark.edited_at && " · changed"}
        {on && ` · on ${on}`}
        {remark.shared && " · clients see it"}
      </Box>
      {editing ? (
        <>
          <TextArea label="Your remark" rows={3} value={text} onChange={(e) => setText(e.currentTarget.value)} />
          <Flex gap="8px">
            <Button onClick={() => setEditing(false)}>Not now</Button>
            <Button
              kind="main"
              disabled={!text.trim()}
              onClick={() => void attempt(() => updateRemark(brand.slug, post, remark.id, { text }))}
            >
              Keep
            </Button>
          </Flex>
        </>
      ) : (
        <Box whiteSpace="pre-wrap" overflowWrap="anywhere" dir="auto">
          {remark.text}
        </Box>
      )}
      {!editing && (
        <Flex gap="14px" fontSize="12px" align="center">
          {remark.resolved_at && <Box color="epazote">settled by {remark.resolved_by}</Box>}
          <Button
            kind="link"
            fontSize="12px"
            onClick={() =>
              void attempt(() => resolveRemark(brand.slug, post, remark.id, { resolved: !remark.resolved_at }))
            }
          >
            {remark.resolved_at ? "Open again" : "Settle"}
          </Button>
          {remark.mine && (
            <>
              <Button kind="link" fontSize="12px" onClick={() => setEditing(true)}>
                Change
              </Button>
              <Button
                kind="link"
                fontSize="12px"
                onClick={() => void attempt(() => deleteRemark(brand.slug, post, remark.id))}
              >
                Take back
              </Button>
            </>
          )}
        </Flex>
      )}
    </Box>
  );
}
