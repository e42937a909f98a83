import os
os.path('x')
d.get('/a')
