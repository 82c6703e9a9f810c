/** A question with files, sent as a form; empty parts stay out. */
export function asForm(parts: Record<string, Blob | Blob[] | string | number | boolean | null | undefined>) {
  return {
    body: parts as never,
    bodySerializer: () => {
      const form = new FormData();
      for (const [name, value] of Object.entries(parts)) {
        if (value === null || value === undefined || value === "") continue;
        for (const part of Array.isArray(value) ? value : [value])
          if (part instanceof Blob) form.append(name, part);
          else form.append(name, String(part));
      }
      return form;
    },
  };
}
