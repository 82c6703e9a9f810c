import { Form } from "react-bootstrap";
import { NeedsSignal } from "../takealong/NeedsSignal";

interface Props {
  id: string;
  label: string;
  onChange: (files: File[]) => void;
  multiple?: boolean;
}

/** A field for one JPEG, or for several, that the server measures. */
export function PictureInput({ id, label, onChange, multiple = false }: Props) {
  return (
    <Form.Group controlId={id}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type="file"
        accept="image/jpeg,.jpg,.jpeg"
        multiple={multiple}
        onChange={(event) => onChange([...((event.target as HTMLInputElement).files ?? [])])}
      />
      <NeedsSignal />
    </Form.Group>
  );
}
