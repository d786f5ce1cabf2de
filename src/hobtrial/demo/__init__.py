"""The sample world: exercises in a bakehouse and a class of 24 made-up students."""

from .sample import CLASS_NAME, exercise_folder, exercises, hand_ins, load_demo

__all__ = ["CLASS_NAME", "exercise_folder", "exercises", "hand_ins", "load_demo"]
