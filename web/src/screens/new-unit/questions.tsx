import {
  completed,
  type Pattern,
  type QuestionId,
  questionOf,
  UNKNOWN,
} from "@uppershed/core/patterns";

/** The few questions that turn a family into this unit; each may be answered "don't know yet". */
export const Questions = ({
  pattern,
  answers,
  onAnswer,
}: {
  pattern: Pattern;
  answers: Partial<Record<QuestionId, string>>;
  onAnswer: (id: QuestionId, value: string) => void;
}) => {
  const now = completed(pattern, answers);
  return (
    <div className="grid gap-x-6 gap-y-2 sm:grid-cols-2">
      {pattern.questions.map((id) => {
        const question = questionOf(id);
        return (
          <label key={id} className="block text-[15px]">
            <span className="font-semibold">{question.text}</span>
            <select
              className="field mt-1 w-full"
              value={now[id]}
              onChange={(e) => onAnswer(id, e.target.value)}
            >
              {question.options.map((o) => (
                <option key={o.value} value={o.value}>
                  {o.label}
                </option>
              ))}
              <option value={UNKNOWN}>Don't know yet</option>
            </select>
            {now[id] === UNKNOWN && (
              <span className="block text-[13px] text-muted">To find out: {question.ask}</span>
            )}
          </label>
        );
      })}
    </div>
  );
};
