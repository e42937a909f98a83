import x
x.task()
