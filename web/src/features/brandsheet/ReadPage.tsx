import { Box, chakra, Flex } from "@chakra-ui/react";
import { type FormEvent, useState } from "react";
import type { Schemas } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { readBrandPage } from "@/data/brandsheet";
import { Button } from "@/ui/Button";
import { Field } from "@/ui/Field";
import { toast } from "@/ui/toasts";
import { useForm } from "@/ui/useForm";
import type { Sheet } from "./useSheet";

type Proposal = Schemas["Proposal"];
type Props = { sheet: Sheet; change: (more: Partial<Sheet>) => void };

/** Read the brand's own page: each thing it says beside what the sheet says now, to take or leave. */
export function ReadPage({ sheet, change }: Props) {
  const { brand } = useBrandContext();
  const form = useForm();
  const [address, setAddress] = useState(sheet.site);
  const [proposals, setProposals] = useState<Proposal[] | null>(null);
  const open = (proposals ?? []).filter((p) => p.part !== "name" && String(present(sheet, p.part)) !== String(p.value));

  function read(event: FormEvent) {
    event.preventDefault();
    void form.send(async () => {
      const values = await readBrandPage(brand.slug, { address });
      setProposals(values.proposals);
    });
  }
  const take = (all: Proposal[]) => {
    change(takenAll(sheet, all));
    toast(
      all.length === 1
        ? `${all[0]?.label} is taken over. Keep the sheet when you are done.`
        : `${all.length} parts are taken over. Keep the sheet when you are done.`,
    );
  };
  return (
    <Box as="section" aria-label="Read my page" bg="wash" p="14px" mb="20px">
      <chakra.form onSubmit={read}>
        <Flex gap="10px" align="flex-end" flexWrap="wrap">
          <Box flex="1" minW="240px" mb="-14px">
            <Field
              label="Read a first version from the brand's own page"
              placeholder="https://"
              value={address}
              onChange={(e) => setAddress(e.currentTarget.value)}
              error={form.at("/address")}
              required
            />
          </Box>
          <Button type="submit" disabled={form.busy}>
            {form.busy ? "Reading" : "Read my page"}
          </Button>
        </Flex>
      </chakra.form>
      {proposals && open.length === 0 && (
        <Box mt="12px" role="status">
          {proposals.length === 0
            ? "The page says nothing that fits here. Write the sheet below."
            : "The sheet says all that the page says."}
        </Box>
      )}
      {open.length > 0 && (
        <Box mt="14px">
          <Box
            as="table"
            w="100%"
            css={{
              "& th, & td": {
                textAlign: "left",
                padding: "6px 10px 6px 0",
                borderTop: "1px solid var(--m-colors-rule)",
                verticalAlign: "top",
              },
              "& th": { fontSize: "12px", fontWeight: 600 },
            }}
          >
            <thead>
              <tr>
                <th scope="col">Part</th>
                <th scope="col">The page says</th>
                <th scope="col">The sheet says</th>
                <th scope="col">
                  <Button onClick={() => take(open)}>Take all {open.length}</Button>
                </th>
              </tr>
            </thead>
            <tbody>
              {open.map((proposal) => (
                <tr key={proposal.part}>
                  <th scope="row">{proposal.label}</th>
                  <td>
                    <Shown proposal={proposal} brand={brand.slug} />
                    <Box color="faded" fontSize="11.5px">
                      {proposal.source}
                    </Box>
                  </td>
                  <td>
                    <Box color="faded" overflowWrap="anywhere">
                      {[present(sheet, proposal.part)].flat().join(", ") || "nothing yet"}
                    </Box>
                  </td>
                  <td>
                    <Flex gap="8px">
                      <Button aria-label={`Take ${proposal.label}`} onClick={() => take([proposal])}>
                        Take
                      </Button>
                      <Button
                        kind="quiet"
                        aria-label={`Leave ${proposal.label}`}
                        onClick={() => setProposals((all) => (all ?? []).filter((p) => p.part !== proposal.part))}
                      >
                        Leave
                      </Button>
                    </Flex>
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
        </Box>
      )}
    </Box>
  );
}

function Shown({ proposal, brand }: { proposal: Proposal; brand: string }) {
  if (proposal.part === "logo")
    return (
      <Box asChild maxH="56px">
        <img src={`/media/${brand}/${proposal.value}/thumb`} alt="The logo on the page" />
      </Box>
    );
  if (proposal.part === "colours" && Array.isArray(proposal.value))
    return (
      <Flex gap="8px" flexWrap="wrap">
        {proposal.value.map((colour) => (
          <Flex key={colour} align="center" gap="4px">
            <Box w="18px" h="18px" borderWidth="1px" borderColor="faded" style={{ background: colour }} /> {colour}
          </Flex>
        ))}
      </Flex>
    );
  return <Box overflowWrap="anywhere">{proposal.shown}</Box>;
}

/** What the sheet says at a proposal's part. */
function present(sheet: Sheet, part: string): string | string[] | number {
  const [first = "", second] = part.split("/");
  const value = (sheet as unknown as Record<string, unknown>)[first];
  const at = second ? (value as Record<string, unknown>)[second] : value;
  return (at ?? "") as string | string[] | number;
}

function taken(sheet: Sheet, { part, value }: Proposal): Partial<Sheet> {
  const [first = "", second] = part.split("/");
  if (second) return { contact: { ...sheet.contact, [second]: value } } as Partial<Sheet>;
  return { [first]: value } as Partial<Sheet>;
}

function takenAll(sheet: Sheet, all: Proposal[]): Partial<Sheet> {
  const more: Partial<Sheet> = {};
  for (const proposal of all) Object.assign(more, taken({ ...sheet, ...more }, proposal));
  return more;
}
