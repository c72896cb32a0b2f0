import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useRef, useState } from "react";
import type { Network } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { useChanged } from "@/data/changes";
import { loadSheet } from "@/data/profiles";
import { Button } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { Area } from "@/ui/TextArea";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";

const LINE = /^\/toml\/line\/(\d+)$/;

/** Load a rule sheet of one's own: from a file or typed in; every fault stands beside its line. */
export function SheetLoader({ loaded }: { loaded: (sheet: Network) => void }) {
  const { brand } = useBrandContext();
  const changed = useChanged(brand.slug);
  const form = useForm();
  const area = useRef<HTMLTextAreaElement>(null);
  const [open, setOpen] = useState(false);
  const [toml, setToml] = useState("");

  async function read(file: File | undefined) {
    if (!file) return;
    setToml(await file.text());
    setOpen(true);
  }
  function send(event: FormEvent) {
    event.preventDefault();
    void form.send(async () => {
      const sheet = await loadSheet(brand.slug, { toml });
      await changed("profile");
      toast(`The rule sheet of ${sheet.name} is loaded: plan for it by hand.`);
      loaded(sheet);
      setOpen(false);
    });
  }
  function toLine(line: number) {
    const lines = toml.split("\n");
    const start = lines.slice(0, line - 1).join("\n").length + (line > 1 ? 1 : 0);
    area.current?.focus();
    area.current?.setSelectionRange(start, start + (lines[line - 1]?.length ?? 0));
  }
  return (
    <Box mt="22px" borderTopWidth="2px" borderColor="ink" pt="12px">
      <Box as="h3" fontSize="16px" lineHeight="20px">
        A network nobody here thought of
      </Box>
      <Box color="faded" fontSize="13px" my="6px">
        Write its rules as a rule sheet (TOML): lengths, media, fields. Menudo then checks as you write, and you plan
        for it by hand at once.
      </Box>
      <Flex gap="10px" align="center" flexWrap="wrap">
        <FileButton accept=".toml,text/plain" pick={([file]) => void read(file)}>
          Load a sheet
        </FileButton>
        {!open && (
          <Button kind="link" onClick={() => setOpen(true)}>
            or type one
          </Button>
        )}
      </Flex>
      {open && (
        <chakra.form onSubmit={send} mt="10px">
          <Area
            ref={area}
            aria-label="Rule sheet"
            rows={12}
            value={toml}
            onChange={(e) => setToml(e.currentTarget.value)}
            fontFamily="ui-monospace, monospace"
            fontSize="12px"
            lineHeight="17px"
            whiteSpace="pre"
            overflowX="auto"
            spellCheck={false}
            aria-invalid={form.problem ? true : undefined}
          />
          {form.problem && (
            <Box role="alert" mt="8px" fontSize="13px">
              <Box color="pimenton" fontWeight="600">
                {form.problem.faults.length === 1 ? "One fault" : `${form.problem.faults.length} faults`}; nothing is
                loaded yet.
              </Box>
              {form.problem.faults.map((fault) => {
                const line = Number(LINE.exec(fault.pointer)?.[1] ?? 0);
                return (
                  <Flex key={fault.pointer + fault.detail} gap="8px" py="3px" borderTopWidth="1px" borderColor="rule">
                    <Button kind="link" minH="20px" onClick={() => toLine(line)}>
                      Line {line}
                    </Button>
                    <Box flex="1">{fault.detail}</Box>
                  </Flex>
                );
              })}
            </Box>
          )}
          <Button type="submit" mt="8px" disabled={form.busy || !toml.trim()}>
            Check and load
          </Button>
        </chakra.form>
      )}
    </Box>
  );
}
