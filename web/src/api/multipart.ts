/** A multipart body. The client's types know of JSON only: what the parts have to be is said by `Form`. */
export function multipart(parts: Record<string, string | File>) {
  return {
    body: parts as never,
    bodySerializer: () => {
      const form = new FormData();
      for (const [name, value] of Object.entries(parts)) form.append(name, value);
      return form;
    },
  };
}
