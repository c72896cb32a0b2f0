import { Box, chakra, Flex } from "@chakra-ui/react";
import { type KeyboardEvent, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { createRemark } from "@/data/talk";
import { Button } from "@/ui/Button";
import { TextArea } from "@/ui/TextArea";
import { Tick } from "@/ui/Tick";
import { useForm } from "@/ui/useForm";
import { TargetPicker } from "./TargetPicker";
import { type Version, WHOLE_POST } from "./target";

type Props = { id: number; people: Schemas["PersonOut"][]; versions: Version[] };

const NAMING = /(^|\s)@([\p{L}\p{M} .'-]{0,40})$/u;

/** Say something: on the whole post, a version, a field. @ offers the brand's people. */
export function NewRemark({ id, people, versions }: Props) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const area = useRef<HTMLTextAreaElement>(null);
  const [text, setText] = useState("");
  const [caret, setCaret] = useState(0);
  const [on, setOn] = useState(WHOLE_POST);
  const [shared, setShared] = useState(false);
  const [at, setAt] = useState(0);
  const naming = text.slice(0, caret).match(NAMING);
  const wanted = naming?.[2]?.toLowerCase() ?? "";
  const offered = naming ? people.filter((p) => p.name.toLowerCase().includes(wanted) && p.name !== naming[2]) : [];

  function name(person: Schemas["PersonOut"] | undefined) {
    if (!person || !naming) return;
    const start = caret - wanted.length;
    const put = `${text.slice(0, start)}${person.name} ${text.slice(caret)}`;
    setText(put);
    setCaret(start + person.name.length + 1);
    setAt(0);
    requestAnimationFrame(() => {
      area.current?.focus();
      area.current?.setSelectionRange(start + person.name.length + 1, start + person.name.length + 1);
    });
  }
  function press(event: KeyboardEvent) {
    if (event.ctrlKey && event.key === "Enter") {
      event.preventDefault();
      send();
    } else if (offered.length && (event.key === "ArrowDown" || event.key === "ArrowUp")) {
      event.preventDefault();
      setAt((at + (event.key === "ArrowDown" ? 1 : offered.length - 1)) % offered.length);
    } else if (offered.length && (event.key === "Enter" || event.key === "Tab")) {
      event.preventDefault();
      name(offered[Math.min(at, offered.length - 1)]);
    }
  }
  function send() {
    void form.send(async () => {
      await createRemark(brand.slug, id, { text, ...on, shared });
      setText("");
      setOn(WHOLE_POST);
      await changed({ kind: "remarks", id });
    });
  }
  return (
    <Box borderTopWidth="1px" borderColor="rule" pt="10px">
      <TextArea
        ref={area}
        label="Your remark"
        rows={3}
        value={text}
        maxLength={4000}
        error={form.at("/text")}
        onChange={(e) => {
          setText(e.currentTarget.value);
          setCaret(e.currentTarget.selectionStart);
        }}
        onSelect={(e) => setCaret(e.currentTarget.selectionStart)}
        onKeyDown={press}
      />
      {offered.length > 0 && (
        <Flex role="listbox" aria-label="People" gap="6px" flexWrap="wrap" mb="10px">
          {offered.slice(0, 6).map((person, n) => (
            <chakra.button
              key={person.id}
              type="button"
              role="option"
              aria-selected={n === at}
              onClick={() => name(person)}
              minH="28px"
              px="8px"
              borderWidth="1px"
              borderColor={n === at ? "ink" : "rule"}
              borderRadius="3px"
              cursor="pointer"
            >
              @{person.name}
            </chakra.button>
          ))}
        </Flex>
      )}
      <Flex gap="8px" flexWrap="wrap" align="center">
        <TargetPicker versions={versions} on={on} change={setOn} />
        <Box flex="1" />
        <Button kind="main" disabled={form.busy || !text.trim()} onClick={send}>
          Say it
        </Button>
      </Flex>
      <Box fontSize="13px" mt="4px">
        <Tick checked={shared} onChange={(e) => setShared(e.target.checked)}>
          Clients by link see it too
        </Tick>
      </Box>
      {form.loose("/text") && (
        <Box role="alert" color="pimenton" mt="6px">
          {form.loose("/text")}
        </Box>
      )}
    </Box>
  );
}
