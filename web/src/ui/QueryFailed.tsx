import { Button } from "./Button";
import { EmptyState } from "./EmptyState";

export function QueryFailed({ error, again }: { error: Error; again?: () => void }) {
  return (
    <div role="alert">
      <EmptyState title="This could not be read" words={error.message}>
        {again && <Button onClick={again}>Try again</Button>}
      </EmptyState>
    </div>
  );
}
