import type { Schemas } from "../api/client";

export type Fact = Schemas["FactAnswer"];
