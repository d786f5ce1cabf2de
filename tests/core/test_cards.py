"""Cards and words of classes: how they are made, and how they are typed."""

import math
import random
import unittest

from hobtrial.core.card_words import WORDS
from hobtrial.core.cards import as_printed, new_card, new_class_word


class Cards(unittest.TestCase):
    def test_a_card_has_forty_bits(self) -> None:
        self.assertEqual(len(set(WORDS)), len(WORDS))
        self.assertGreaterEqual(3 * math.log2(len(WORDS)) + math.log2(100), 40)

    def test_words_are_plain(self) -> None:
        self.assertEqual([word for word in WORDS if not (word.isascii() and word.isalpha() and word.islower())], [])
        self.assertEqual([word for word in WORDS if not 3 <= len(word) <= 9], [])

    def test_however_it_is_typed_it_is_the_same(self) -> None:
        for card in (new_card(random.Random(seed).choice) for seed in range(50)):
            first, second, third, digits = card.split("-")
            self.assertEqual((len(digits), {first, second, third} <= set(WORDS)), (2, True))
            for typed in (card.upper(), f" {first}  {second},{third} {digits}\n", f"{first}-{second}-{third}{digits}"):
                self.assertEqual(as_printed(typed), card)

    def test_a_class_has_a_word_of_its_own(self) -> None:
        choose = random.Random(1).choice
        taken: set[str] = set()
        for _ in range(len(WORDS) + 200):
            word = new_class_word(choose, taken)
            self.assertNotIn(word, taken)
            self.assertEqual(as_printed(word), word)
            taken.add(word)
