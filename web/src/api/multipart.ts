/** A multipart body, which the client's types don't know. */
export function multipart<Parts extends Record<string, string | File>>(parts: Parts) {
  return {
    body: parts as unknown as { [Name in keyof Parts]: string },
    bodySerializer: () => {
      const form = new FormData();
      for (const [name, value] of Object.entries(parts)) form.append(name, value);
      return form;
    },
  };
}
