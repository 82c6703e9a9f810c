"""What is asked in practice."""

from __future__ import annotations

from ..wire.question import Question
from .drills import Drill, DrillQuestion, drill
from .dryrun.beginning import BeginQuestion, Begun, Scenarios, ScenariosQuestion, begin, scenarios
from .dryrun.careful import Hint, HintQuestion, hint
from .dryrun.develop import Developed, DevelopQuestion, develop
from .dryrun.replay import Replay, ReplayQuestion, replay
from .dryrun.world import Metered, ReadMeterQuestion, meter
from .grading import Graded, GradeQuestion, grade
from .repetition import NextDrill, NextQuestion, next_drill

QUESTIONS: dict[str, Question] = {
    "practice/next": Question(NextQuestion, next_drill, NextDrill),
    "practice/drill": Question(DrillQuestion, drill, Drill),
    "practice/grade": Question(GradeQuestion, grade, Graded),
    "practice/scenarios": Question(ScenariosQuestion, scenarios, Scenarios, documents=True),
    "practice/begin": Question(BeginQuestion, begin, Begun, documents=True),
    "practice/meter": Question(ReadMeterQuestion, meter, Metered),
    "practice/frame": Question(DevelopQuestion, develop, Developed),
    "practice/hint": Question(HintQuestion, hint, Hint),
    "practice/replay": Question(ReplayQuestion, replay, Replay),
}
