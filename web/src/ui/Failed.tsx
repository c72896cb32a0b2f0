import { Button } from "./Button";
import { Empty } from "./Empty";

export function Failed({ error, again }: { error: Error; again?: () => void }) {
  return (
    <div role="alert">
      <Empty title="This could not be read" words={error.message}>
        {again && <Button onClick={again}>Try again</Button>}
      </Empty>
    </div>
  );
}
