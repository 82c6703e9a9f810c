"""Every question that needs no account, in one table by its address under /api.

The server mounts the table, a browser's worker can mount the same one, so that neither can drift. Standard library
only. ``ask`` is the whole way from JSON to JSON. Each room has its own part of the table.
"""

from __future__ import annotations

from typing import Any

from .camera import questions as of_camera
from .exposure import questions as of_exposure
from .filters import questions as of_filters
from .gear import questions as of_gear
from .log import questions as of_log
from .motion import questions as of_motion
from .moving_light import questions as of_moving_light
from .outing import questions as of_outing
from .practice import questions as of_practice
from .run import questions as of_run
from .sky import questions as of_sky
from .stacks import questions as of_stacks
from .wire.question import Question
from .wire.reader import plain, read

QUESTIONS: dict[str, Question] = {
    **of_camera.QUESTIONS,
    **of_filters.QUESTIONS,
    **of_gear.QUESTIONS,
    **of_moving_light.QUESTIONS,
    **of_exposure.QUESTIONS,
    **of_stacks.QUESTIONS,
    **of_sky.QUESTIONS,
    **of_motion.QUESTIONS,
    **of_outing.QUESTIONS,
    **of_run.QUESTIONS,
    **of_log.QUESTIONS,
    **of_practice.QUESTIONS,
}


def ask(name: str, given: Any) -> Any:
    """Return the JSON answer of a question asked in JSON.

    Raises
    ------
    Refusal, Refusals
        What is asked cannot be read or answered.
    KeyError
        There is no such question.
    """
    question = QUESTIONS[name]
    return plain(question.answer(read(question.question_type, given)), drop_none=question.drop_none)
