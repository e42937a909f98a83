import os
import sys
import unittest

sys.path.insert(0, os.path.join(os.path.dirname(__file__), ".."))

from marshtide.fit import fit, solve  # noqa: E402
from marshtide.harmonics import Tide  # noqa: E402


class Fit(unittest.TestCase):
    def test_solve(self):
        self.assertEqual(solve([[2.0, 1.0], [1.0, 3.0]], [5.0, 10.0]), [1.0, 3.0])

    def test_finds_what_made_the_readings(self):
        made = Tide(1500, {"M2": (900, 40), "S2": (300, 80)})
        found = fit(made.curve(0, 24 * 30), ["M2", "S2"])
        self.assertAlmostEqual(found.mean, 1500, places=3)
        self.assertAlmostEqual(found.parts["M2"][0], 900, places=3)
        self.assertAlmostEqual(found.parts["S2"][1], 80, places=3)

    def test_too_little_is_refused(self):
        with self.assertRaises(ValueError):
            fit([(0, 1), (1, 2)])


if __name__ == "__main__":
    unittest.main()
