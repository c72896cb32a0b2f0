import { chakra } from "@chakra-ui/react";
import type { ComponentProps } from "react";
import { Button } from "./Button";

/** Pictures and videos that Menudo reads; what a file truly is, the server finds by its content. */
export const MEDIA_FILES =
  "image/jpeg,image/png,image/webp,image/gif,video/mp4,video/quicktime,video/x-matroska,video/webm";

type Props = Omit<ComponentProps<typeof Button>, "onClick"> & {
  accept: string;
  several?: boolean;
  pick: (files: File[]) => void;
};

/** A button that asks for files. The same file can be chosen again. */
export function FileButton({ accept, several, pick, children, ...look }: Props) {
  return (
    <Button asChild {...look} _focusWithin={{ outline: "2px solid", outlineColor: "anil" }}>
      <label>
        {children}
        <chakra.input
          type="file"
          multiple={several}
          accept={accept}
          position="absolute"
          w="1px"
          h="1px"
          overflow="hidden"
          clipPath="inset(50%)"
          onChange={(event) => {
            pick([...(event.currentTarget.files ?? [])]);
            event.currentTarget.value = "";
          }}
        />
      </label>
    </Button>
  );
}
