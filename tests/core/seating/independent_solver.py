"""Solves seating problems with SciPy's milp (HiGHS) and compares: independent_solver.py PROBLEMS.json.

Each problem carries what our solver made of it: how many of each rank are seated, and the cost. Same stages: most of
rank 0, then of rank 1, then of rank 2, then least cost.
"""
import json
import sys

import numpy as np
from scipy.optimize import Bounds, LinearConstraint, milp


def solve(problem):
    columns = [(i, k) for i, item in enumerate(problem["items"])
               for k, cost in enumerate(item["cost"]) if cost is not None]
    if not columns:
        return [0, 0, 0], 0.0
    n = len(columns)
    rows, tops = [], []
    for i in range(len(problem["items"])):
        rows.append([1.0 if c[0] == i else 0.0 for c in columns])
        tops.append(1)
    for k, (seats, _) in enumerate(problem["classes"]):
        rows.append([1.0 if c[1] == k else 0.0 for c in columns])
        tops.append(seats)
    for b, limit in enumerate(problem["budgets"]):
        rows.append([problem["items"][c[0]]["draw"] if problem["classes"][c[1]][1] == b else 0.0 for c in columns])
        tops.append(limit)
    bottoms = [-np.inf] * len(rows)
    seated = []

    def best(objective):
        answer = milp(objective, constraints=LinearConstraint(np.array(rows), bottoms, tops),
                      integrality=np.ones(n), bounds=Bounds(0, 1))
        assert answer.success, answer.message
        return np.round(answer.x)

    for rank in range(3):
        of_rank = np.array([1.0 if problem["items"][c[0]]["rank"] == rank else 0.0 for c in columns])
        won = float(of_rank @ best(-of_rank))
        seated.append(int(round(won)))
        rows.append(list(of_rank))
        bottoms.append(won)
        tops.append(np.inf)
    costs = np.array([problem["items"][i]["cost"][k] for i, k in columns])
    return seated, float(costs @ best(costs))


with open(sys.argv[1]) as file:
    problems = json.load(file)
wrong = 0
for number, problem in enumerate(problems):
    seated, cost = solve(problem)
    if seated != problem["seated"] or abs(cost - problem["cost"]) > 1e-6:
        print(f"problem {number}: ours {problem['seated']} at {problem['cost']}, milp {seated} at {cost}")
        wrong += 1
print(f"{len(problems) - wrong} problems agree")
sys.exit(1 if wrong else 0)
