import os
import sys
import unittest

sys.path.insert(0, os.path.join(os.path.dirname(__file__), ".."))

from marshtide.harmonics import Tide, extremes  # noqa: E402


class Heights(unittest.TestCase):
    def test_mean_alone_is_flat(self):
        self.assertEqual({h for _, h in Tide(1500).curve(0, 10)}, {1500})

    def test_one_constituent(self):
        tide = Tide(0, {"S2": (1000, 0)})
        self.assertAlmostEqual(tide.height(0), 1000)
        self.assertAlmostEqual(tide.height(6), -1000)

    def test_extremes_alternate(self):
        kinds = [k for _, _, k in extremes(Tide(0, {"M2": (900, 30)}).curve(0, 50))]
        self.assertTrue(all(a != b for a, b in zip(kinds, kinds[1:])))


if __name__ == "__main__":
    unittest.main()
