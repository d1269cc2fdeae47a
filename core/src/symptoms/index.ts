export { explain, type Complaint } from "./explain.ts";
export { type Explained, type Symptom, SYMPTOM_NAMES, SYMPTOMS } from "./symptoms.ts";
